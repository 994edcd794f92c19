import { succeed } from "../result";
import { travelFeed } from "./measure";
import { rewriteTravels } from "./rewrite-travels";
import { Setting } from "./setting";

/** Feed of the ways between what is laid; lifts and retraction keep theirs. */
export const travelSpeed: Setting = {
  label: "Travel speed",
  short: "travel",
  unit: "mm/s",
  lowest: 5,
  highest: 2000,
  step: 25,
  decimals: 1,
  usual: (printer) => Math.min(150, printer.highestFeedXyMmS),
  say: () => succeed([]),
  inside: {
    on: () => true,
    process: (process, travelMmS) => ({ ...process, travelMmS }),
    seenIn: ["travelFeed"],
    rewrite: rewriteTravels,
  },
  effective: (value) => value,
  hear: () => null,
  measure: travelFeed,
  // Feeds are written as whole mm/min.
  tolerance: 0.02,
};
