import { trialKindFor } from "../trials";
import { firstRound } from "../trials/first-round";
import { roomOn } from "../trials/room";
import { Check, CheckContext } from "./finding";

/** Where this printer made the first round smaller than usual; said as long as the plan is still that round. */
export const fitted: Check = {
  key: "fitted",
  passes: null,
  run({ trial, printer, spool, shape }: CheckContext) {
    if (!trial || !spool) return [];
    const { layerHeightMm, firstLayerHeightMm, options, plan, fixed } = trial;
    const round = firstRound(trial.kind, { printer, spool, kept: fixed, options, layerHeightMm, firstLayerHeightMm });
    const untouched = JSON.stringify(round.plan.bands) === JSON.stringify(plan.bands);
    const notes = untouched ? [...round.notes] : [];
    const room = roomOn(printer);
    if (shape && (shape.widthMm > room.widthMm + 1e-6 || shape.depthMm > room.depthMm + 1e-6)) {
      notes.push(
        `The ${trialKindFor(trial.kind).label.toLowerCase()} piece comes close to the edge of the bed: no room is left for the usual margin.`,
      );
    }
    return notes.map((message) => ({ check: "fitted", severity: "note" as const, where: printer.name, message }));
  },
};
