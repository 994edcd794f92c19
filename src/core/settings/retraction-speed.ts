import { EventKind } from "../gcode/moves";
import { drawingFeed } from "./measure";
import { changedCycles, firmwareLine } from "./rewrite-retraction";
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
      changes: (lines, wanted, tool) =>
        changedCycles(lines, wanted, tool, ({ lines: ofCycle }, value) =>
          ofCycle
            .filter(({ kind }) => kind === "draw" || kind === "restore")
            .map((line) => ({ line, feed: Math.round(value * 60) / line.unitMm })),
        ),
    },
  },
  effective: (value, printer) => Math.min(value, printer.highestFeedEMmS),
  hear: (kind, value) => (kind === EventKind.firmwareRetractSpeed ? value : null),
  measure: drawingFeed,
  tolerance: 0.02,
};
