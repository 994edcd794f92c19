import { dialects } from "../../machine/dialects";
import { Check } from "../check";

/** A firmware that has one acceleration for everything: the trial changes travel with it. */
export const sharedAcceleration: Check = {
  key: "shared-acceleration",
  passes: null,
  run({ planned, printer }) {
    if (!planned.acceleration || !dialects[printer.dialect].accelerationIsShared) return [];
    return [
      {
        check: "shared-acceleration",
        severity: "note",
        where: printer.name,
        message: "This firmware has one acceleration for all moves: travel speeds up with the bands too.",
      },
    ];
  },
};
