import { Check } from "./check";
import { sayBands } from "./say";

/** Bands without room for their value in raised digits. */
export const unreadableBands: Check = {
  key: "unreadable-bands",
  passes: null,
  run({ shape }) {
    const unlabelled = shape?.unlabelled ?? [];
    if (unlabelled.length === 0) return [];
    return [
      {
        check: "unreadable-bands",
        severity: "note",
        where: sayBands(unlabelled),
        message: "No room for a mark on the piece: count the bands from the base, or make them 4 mm high.",
      },
    ];
  },
};
