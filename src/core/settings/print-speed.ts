import { succeed } from "../result";
import { layingFeed } from "./measure";
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
  usual: () => 50,
  say: () => succeed([]),
  inside: {
    on: () => true,
    // A wanted speed is kept whatever the layer's size: it is what is being tried.
    process: (process, mmS) => ({
      ...process,
      outerWallMmS: mmS,
      innerWallMmS: mmS,
      solidMmS: mmS,
      sparseMmS: mmS,
      bridgeMmS: mmS,
      smallestLayerSeconds: 0,
    }),
    seenIn: ["feed"],
    rewrite:
      "A sliced file has a speed of its own for walls, fill and strands over air: use the speed factor, which scales them all.",
  },
  effective: (value, printer) => Math.min(value, printer.highestFeedXyMmS),
  hear: () => null,
  measure: layingFeed,
  // Feeds are written as whole mm/min.
  tolerance: 0.02,
};
