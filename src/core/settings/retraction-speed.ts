import { filamentCycles } from "../gcode/filament-cycles";
import { EventKind } from "../gcode/moves";
import { LineChange } from "../gcode/moving-lines";
import { dialects } from "../machine/dialects";
import { refuse, succeed } from "../result";
import { drawingFeed } from "./measure";
import { countLeft, noCycles } from "./rewrite-retraction";
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
  usual: (printer) => printer.retractionMmS,
  say(value, printer) {
    if (!printer.firmwareRetraction) return succeed([]);
    const line = dialects[printer.dialect].firmwareRetractionLine({ speedMmS: value });
    return line.ok ? succeed([line.value]) : line;
  },
  inside: {
    on: (printer) => !printer.firmwareRetraction,
    process: (process, retractionMmS) => ({ ...process, retractionMmS }),
    rewrite: {
      keeps: "filament",
      changes(lines, wanted, tool) {
        const found = filamentCycles(lines, tool);
        const why = noCycles(found);
        if (why) return refuse(why);
        const changes: LineChange[] = [];
        for (const { lines: ofCycle } of found.cycles) {
          const wish = ofCycle[0].layer >= 0 ? wanted[ofCycle[0].layer] : NaN;
          if (Number.isNaN(wish)) continue;
          for (const line of ofCycle) {
            if (line.kind !== "draw" && line.kind !== "restore") continue;
            changes.push({ line, feed: Math.round(wish * 60) / line.unitMm });
          }
        }
        const left = found.left.map(({ because, line }) => ({ what: because, line }));
        return succeed({ changes, left: countLeft(left, wanted) });
      },
    },
  },
  effective: (value, printer) => Math.min(value, printer.highestFeedEMmS),
  hear: (kind, value) => (kind === EventKind.firmwareRetractSpeed ? value : null),
  measure: drawingFeed,
  tolerance: 0.02,
};
