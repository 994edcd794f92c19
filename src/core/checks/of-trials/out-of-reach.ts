import { OutOfReach, outOfReach } from "../../heightplan/reach";
import { plainNumber } from "../../units";
import { Check } from "../check";
import { sayBands } from "../say";

/** Speeds of drawing back that the extruder never comes to: those bands are alike, however they look. */
export const outOfReachCheck: Check = {
  key: "out-of-reach",
  passes: null,
  run({ trial, printer }) {
    const found = outOfReach(trial, printer);
    if (found.length === 0) return [];
    const few = found.slice(0, MOST_SAID).map(say);
    const more = found.length > MOST_SAID ? `; ${found.length - MOST_SAID} more lengths have such a limit` : "";
    return [
      {
        check: "out-of-reach",
        severity: "note",
        where: found[0].spot === null ? sayBands(found[0].bands) : found.map(({ spot }) => `post ${spot}`).join(", "),
        message: `The extruder of ${printer.name} accelerates at ${plainNumber(printer.retractAccelerationMmS2)} mm/s²: ${few.join("; ")}${more}. Faster values will print the same.`,
      },
    ];
  },
};

const MOST_SAID = 3;

function say({ lengthMm, reachesMmS, bands }: OutOfReach): string {
  return `over ${plainNumber(lengthMm, 2)} mm it never exceeds ${plainNumber(reachesMmS, 0)} mm/s (${sayBands(bands)})`;
}
