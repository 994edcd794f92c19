import { plainNumber } from "../../units";
import { ProgramCheck } from "../check";

/** Wipes draw back over some millimetres; over more than this it is no wipe. Common practice, no source. */
const LONGEST_WIPE_MM = 50;

/** Filament that is drawn back while the nozzle goes along: a print turned backwards pulls it out instead of laying it. */
export const drawnAlong: ProgramCheck = {
  key: "drawn-along",
  passes: null,
  run({ report: { facts } }) {
    const found = facts.drawnAlong;
    if (!found || found.value <= LONGEST_WIPE_MM) return [];
    return [
      {
        check: "drawn-along",
        severity: "stop",
        where: `line ${found.line}`,
        message: `Filament is pulled back over ${plainNumber(found.value, 0)} mm of travel instead of being laid. Check the signs of the E values from here.`,
      },
    ];
  },
};
