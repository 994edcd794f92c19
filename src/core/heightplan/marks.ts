/** A tower made by hand: changes that were made while it printed, as a plan. */
import { SettingKey, SettingValues } from "../settings";
import { roundTo } from "../units";
import { bandEdgesMm, HeightPlan, LOWEST_BAND_MM } from "./plan";

/** A setting changed by hand at a height. */
export interface Mark {
  heightMm: number;
  setting: SettingKey;
  value: number;
}

/**
 * The plan with the marks in it: bands are cut where something was changed by hand, and a change holds until the plan itself
 * sets the same setting again. What was in force before the first mark of a setting is taken from `before`. Marks in the base
 * count from the first band on, marks above the top not at all.
 */
export function planWithMarks(plan: HeightPlan, marks: readonly Mark[], before: SettingValues = {}): HeightPlan {
  const sorted = [...marks].sort((a, b) => a.heightMm - b.heightMm);
  const edges = bandEdgesMm(plan);
  const nudged = [...new Set(sorted.map(({ setting }) => setting))];
  let carried: SettingValues = Object.fromEntries(
    nudged.filter((key) => before[key] !== undefined).map((key) => [key, before[key]]),
  );
  let next = 0;
  const takeUpTo = (heightMm: number) => {
    while (next < sorted.length && sorted[next].heightMm <= heightMm + 1e-6) {
      carried = { ...carried, [sorted[next].setting]: sorted[next].value };
      next++;
    }
  };
  takeUpTo(edges[0] - LOWEST_BAND_MM);
  const bands = plan.bands.flatMap((band, index) => {
    const [from, to] = [edges[index], edges[index + 1]];
    for (const key of nudged) if (band.settings[key] !== undefined) delete carried[key];
    // A change within the lowest height of an edge belongs to that edge.
    takeUpTo(from + LOWEST_BAND_MM);
    const pieces: HeightPlan["bands"] = [];
    let start = from;
    while (next < sorted.length && sorted[next].heightMm < to - LOWEST_BAND_MM) {
      const cut = sorted[next].heightMm;
      pieces.push({ ...band, heightMm: roundTo(cut - start, 6), settings: { ...band.settings, ...carried } });
      takeUpTo(cut + LOWEST_BAND_MM);
      start = cut;
    }
    pieces.push({ ...band, heightMm: roundTo(to - start, 6), settings: { ...band.settings, ...carried } });
    // Own lines stand where their band started.
    return pieces.map((piece, i) => (i === 0 ? piece : { heightMm: piece.heightMm, settings: piece.settings }));
  });
  return { ...plan, bands };
}
