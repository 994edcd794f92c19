/** Travels of a file that was sliced elsewhere, rewritten for another speed. */
import { refuse, succeed } from "../result";
import type { Rewrite } from "./setting";

/** Every way in the plane gets the feed; ways straight up or down keep theirs. */
export const rewriteTravels: Rewrite = {
  keeps: "travel",
  changes(lines, wanted, tool) {
    const changes = lines.flatMap((line) => {
      const value = line.layer >= 0 ? wanted[line.layer] : NaN;
      const inPlane = /[XY]/i.test(line.text.split(/[;(]/, 1)[0]);
      if (line.kind !== "travel" || line.tool !== tool || Number.isNaN(value) || !inPlane) return [];
      const feed = Math.round(value * 60) / line.unitMm;
      return Math.abs(feed * line.unitMm - line.feedMmMin) < 0.5 ? [] : [{ line, feed }];
    });
    if (!lines.some(({ kind }) => kind === "travel")) return refuse("This file has no travels to change.");
    return succeed({ changes, left: [] });
  },
};
