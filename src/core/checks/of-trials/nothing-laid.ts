import { Check } from "../check";

/** A trial whose piece is empty: a pattern without values, say. */
export const nothingLaid: Check = {
  key: "nothing-laid",
  passes: null,
  run({ trial, shape }) {
    if (!trial || !shape) return [];
    // Every piece has something on the bed, or it has nothing at all; the line that fills the nozzle is no piece.
    const onBedMm = trial.firstLayerHeightMm / 2;
    if (shape.solidAt(onBedMm).length > 0 || (shape.tracksAt?.(onBedMm).length ?? 0) > 0) return [];
    return [
      {
        check: "nothing-laid",
        severity: "stop",
        where: "whole piece",
        message:
          "Nothing would be printed: the plan has no values for this form. Choose the form again to get a first round for it.",
      },
    ];
  },
};
