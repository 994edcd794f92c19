import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** Accelerations above what the firmware lets an axis have, by the last reading of its values: it would print its own instead. */
export const beyondCeiling: Check = {
  key: "beyond-ceiling",
  passes: null,
  run({ trial, printer, ceiling }) {
    if (!ceiling) return [];
    const { plan, fixed } = trial;
    const most = ceiling.accelerationMmS2;
    const beyond = plan.bands.flatMap(({ settings }, i) => ((settings.acceleration ?? 0) > most ? [i + 1] : []));
    const isFixedBeyond = (fixed.acceleration ?? 0) > most;
    if (beyond.length === 0 && !isFixedBeyond) return [];
    const within = plan.bands.filter((_, i) => !beyond.includes(i + 1));
    return [
      {
        check: "beyond-ceiling",
        severity: "stop",
        where: beyond.length > 0 ? sayBands(beyond) : "fixed values",
        message: `${printer.name} holds its axes to ${plainNumber(most)} mm/s² (read ${ceiling.readAt.slice(0, 10)}): bands above it would all print the same. Raise the highest acceleration in the firmware, or ask for less.`,
        mend:
          beyond.length > 0 && within.length > 0
            ? { label: "Leave those bands out", trial: { plan: { ...plan, bands: within } } }
            : { label: `Lower to ${plainNumber(most)} mm/s²`, trial: { fixed: { ...fixed, acceleration: most } } },
      },
    ];
  },
};
