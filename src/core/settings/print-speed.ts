import { succeed } from "../result";
import { Setting } from "./setting";

/** Feed of the laying moves; travels, retraction and strands over air that have a speed of their own stay as they are. */
export const printSpeed: Setting = {
  label: "Print speed",
  short: "speed",
  unit: "mm/s",
  lowest: 1,
  highest: 1000,
  step: 10,
  decimals: 1,
  say: () => succeed([]),
  insideMoves: () => true,
  effective: (value, printer) => Math.min(value, printer.highestFeedXyMmS),
  hear: () => null,
  measure: ({ printMmS }) => printMmS,
  // Feeds are written as whole mm/min.
  tolerance: 0.02,
};
