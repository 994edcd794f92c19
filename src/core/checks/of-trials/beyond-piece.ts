import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** Bands that start above the last layer, or between two layers: nothing of them would be printed. */
export const beyondPiece: Check = {
  key: "beyond-piece",
  passes: null,
  run({ bands, report, trial }) {
    const empty = bands.filter(({ firstLayer, lastLayer }) => lastLayer < firstLayer);
    if (empty.length === 0) return [];
    const top = report.layers.at(-1)?.zMm ?? 0;
    const numbers = empty.map(({ number }) => number);
    const above = empty[0].askedFromMm >= top - 1e-6;
    return [
      {
        check: "beyond-piece",
        severity: "warn",
        where: sayBands(numbers),
        message: above
          ? `The plan goes on above the piece, which ends at ${plainNumber(top)} mm: nothing of that is printed.`
          : `Lower than a layer: no layer starts there, so nothing of it is printed.`,
        ...(trial
          ? {
              mend: {
                label: "Leave them out",
                trial: { plan: { ...trial.plan, bands: trial.plan.bands.filter((_, i) => !numbers.includes(i + 1)) } },
              },
            }
          : {}),
      },
    ];
  },
};
