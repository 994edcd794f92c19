import { changeCycle } from "../gcode/filament-cycles";
import { EventKind } from "../gcode/moves";
import { LineChange } from "../gcode/moving-lines";
import { succeed } from "../result";
import { roundTo } from "../units";
import { drawnBack } from "./measure";
import { countLeft, Left, cyclesIn, firmwareLine, valueAt } from "./rewrite-retraction";
import { Setting } from "./setting";

export const retractionLength: Setting = {
  label: "Retraction length",
  short: "retraction",
  unit: "mm",
  lowest: 0,
  highest: 20,
  step: 0.5,
  decimals: 3,
  outlives: true,
  stored: true,
  usual: (printer) => printer.retractionMm,
  say: (value, printer) => firmwareLine(printer, { lengthMm: value }),
  inside: {
    on: (printer) => !printer.firmwareRetraction,
    // No finer than it is said on the piece and in the header.
    process: (process, value) => ({ ...process, retractionMm: roundTo(value, 3) }),
    seenIn: ["drawn"],
    rewrite: {
      keeps: "filament",
      changes(lines, wanted, tool) {
        const found = cyclesIn(lines, tool);
        if (!found.ok) return found;
        const changes: LineChange[] = [];
        const left: Left[] = found.value.left.map(({ because, line }) => ({ what: because, line }));
        for (const cycle of found.value.cycles) {
          const value = valueAt(cycle.lines[0], wanted);
          if (Number.isNaN(value)) continue;
          const changed = changeCycle(cycle, value);
          if (changed) changes.push(...changed);
          else left.push({ what: "draws back more than that while moving", line: cycle.draw });
        }
        return succeed({ changes, left: countLeft(left, wanted) });
      },
    },
  },
  effective: (value) => roundTo(value, 3),
  hear: (kind, value) => (kind === EventKind.firmwareRetractLength ? value : null),
  measure: drawnBack,
  tolerance: 0.002,
};
