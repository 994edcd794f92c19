import { plainNumber } from "../../units";
import type { SheetCheck } from "./check";

/** Strokes that want filament faster than the extruder turns: the printer would go slower than it is told, or lose steps. */
export const beyondExtruder: SheetCheck = {
  key: "beyond-extruder",
  passes: "The extruder keeps up.",
  run({ report: { layers }, printer }) {
    const fastest = layers.reduce(
      (most, layer) => (layer.peakFilamentMmS > (most?.peakFilamentMmS ?? 0) ? layer : most),
      layers[0],
    );
    if (!fastest || fastest.peakFilamentMmS <= printer.highestFeedEMmS * 1.005) return [];
    return [
      {
        check: "beyond-extruder",
        severity: "warn",
        where: `layer ${fastest.index + 1}`,
        message: `Up to ${plainNumber(fastest.peakFilamentMmS, 1)} mm of filament a second are asked for; the extruder of ${printer.name} feeds ${plainNumber(printer.highestFeedEMmS, 1)} mm/s at most.`,
      },
    ];
  },
};
