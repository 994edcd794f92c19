import { EventKind } from "../gcode/moves";
import { LineChange } from "../gcode/moving-lines";
import { succeed } from "../result";
import { drawingFeed } from "./measure";
import { countLeft, cyclesIn, firmwareLine, valueAt } from "./rewrite-retraction";
import { Setting } from "./setting";

export const retractionSpeed: Setting = {
  label: "Retraction speed",
  short: "retraction speed",
  unit: "mm/s",
  lowest: 1,
  highest: 200,
  step: 5,
  decimals: 1,
  outlives: true,
  stored: true,
  usual: (printer) => printer.retractionMmS,
  say: (value, printer) => firmwareLine(printer, { speedMmS: value }),
  inside: {
    on: (printer) => !printer.firmwareRetraction,
    process: (process, retractionMmS) => ({ ...process, retractionMmS }),
    seenIn: ["drawnFeed"],
    rewrite: {
      keeps: "filament",
      changes(lines, wanted, tool) {
        const found = cyclesIn(lines, tool);
        if (!found.ok) return found;
        const changes: LineChange[] = [];
        for (const { lines: ofCycle } of found.value.cycles) {
          const value = valueAt(ofCycle[0], wanted);
          if (Number.isNaN(value)) continue;
          for (const line of ofCycle) {
            if (line.kind !== "draw" && line.kind !== "restore") continue;
            changes.push({ line, feed: Math.round(value * 60) / line.unitMm });
          }
        }
        const left = found.value.left.map(({ because, line }) => ({ what: because, line }));
        return succeed({ changes, left: countLeft(left, wanted) });
      },
    },
  },
  effective: (value, printer) => Math.min(value, printer.highestFeedEMmS),
  hear: (kind, value) => (kind === EventKind.firmwareRetractSpeed ? value : null),
  measure: drawingFeed,
  tolerance: 0.02,
};
