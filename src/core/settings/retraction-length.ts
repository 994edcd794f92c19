import { changeCycle } from "../gcode/filament-cycles";
import { EventKind } from "../gcode/moves";
import { roundTo } from "../units";
import { drawnBack } from "./measure";
import { changedCycles, firmwareLine } from "./rewrite-retraction";
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
      changes: (lines, wanted, tool) =>
        changedCycles(
          lines,
          wanted,
          tool,
          (cycle, value) => changeCycle(cycle, value) ?? "draws back more than that while moving",
        ),
    },
  },
  effective: (value) => roundTo(value, 3),
  hear: (kind, value) => (kind === EventKind.firmwareRetractLength ? value : null),
  measure: drawnBack,
  tolerance: 0.002,
};
