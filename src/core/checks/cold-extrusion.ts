import { EventKind, laysMaterial } from "../gcode/moves";
import { plainNumber } from "../units";
import { Check } from "./finding";

/** Below this no filament can be pushed: the usual guard of firmware. Common practice, no source. */
export const COLD_BELOW_C = 170;

/** Filament pushed through a nozzle that was never heated, or not enough. */
export const coldExtrusion: Check = {
  key: "cold-extrusion",
  passes: null,
  run({ tables: { moves, events } }) {
    let event = 0;
    let setC = 0;
    for (let i = 0; i < moves.count; i++) {
      while (event < events.count && events.move[event] <= i) {
        const kind = events.kind[event];
        if (kind === EventKind.nozzleTemperature || kind === EventKind.nozzleTemperatureWait)
          setC = events.value[event];
        event++;
      }
      if (!laysMaterial(moves.kind[i]) || setC >= COLD_BELOW_C) continue;
      return [
        {
          check: "cold-extrusion",
          severity: "stop",
          where: `line ${moves.line[i] + 1}`,
          message:
            setC === 0
              ? `Filament is pushed before the nozzle is heated. Heat it in the printer's start lines with M109 S{{nozzleFirst}}.`
              : `Filament is pushed at ${plainNumber(setC, 0)} °C; below ${COLD_BELOW_C} °C it does not melt.`,
          mend: { label: "Look at the printer's start lines", open: "printer" },
        },
      ];
    }
    return [];
  },
};
