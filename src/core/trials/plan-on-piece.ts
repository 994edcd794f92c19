/** A first round's bands on a piece of another height. */
import { HeightPlan, variedKeys } from "../heightplan/plan";
import type { SettingKey } from "../settings";
import { asksForBands } from "../sheets/compile";
import type { Sheet } from "../sheets/sheet";
import { roundTo } from "../units";

/** A band of fewer layers cannot be judged. Common practice, no source. */
const FEWEST_LAYERS = 3;

/** How high its layers are, mm: the height that most of them have. */
export function layerMmOf(tops: readonly number[]): number {
  const counts = new Map<number, number>();
  tops.forEach((top, i) => {
    const height = roundTo(top - (tops[i - 1] ?? 0), 3);
    if (i > 0 || tops.length === 1) counts.set(height, (counts.get(height) ?? 0) + 1);
  });
  return [...counts].reduce((most, one) => (one[1] > most[1] ? one : most))[0];
}

/** The plan's values for strokes that take them side by side, in one band from the bed to the top. */
export function planBeside(plan: HeightPlan, setting: SettingKey, tops: readonly number[]): HeightPlan {
  const values = plan.sideBySide?.values ?? plan.bands.flatMap(({ settings }) => settings[setting] ?? []);
  return {
    baseHeightMm: 0,
    bands: [{ heightMm: tops[tops.length - 1], settings: {} }],
    sideBySide: { setting, values },
  };
}

/**
 * The plan's values from the bed to the top of a piece, in bands of whole layers, all of them as high as can be. Where it is too low for all
 * bands, some between the first and the last are left out.
 */
export function planOnPiece({ sideBySide, ...rest }: HeightPlan, tops: readonly number[]): HeightPlan {
  // Values that stand side by side on a kind's own piece follow one another upwards on another.
  const bands =
    sideBySide && variedKeys(rest.bands).length === 0
      ? sideBySide.values.map((value) => ({ ...rest.bands[0], settings: { [sideBySide.setting]: value } }))
      : rest.bands;
  const fit = Math.max(1, Math.min(bands.length, Math.floor(tops.length / FEWEST_LAYERS)));
  const chosen = Array.from({ length: fit }, (_, i) =>
    fit === 1 ? 0 : Math.round((i * (bands.length - 1)) / (fit - 1)),
  );
  const edgeAt = (i: number) => (i === 0 ? 0 : tops[Math.min(tops.length, Math.round((i * tops.length) / fit)) - 1]);
  return {
    ...rest,
    baseHeightMm: 0,
    bands: chosen.map((index, i) => ({ ...bands[index], heightMm: roundTo(edgeAt(i + 1) - edgeAt(i), 6) })),
  };
}

/** A first round's plan for a sheet: over its height, or side by side where its strokes ask for that. */
export function planForSheet(sheet: Sheet, plan: HeightPlan, setting: SettingKey, tops: readonly number[]): HeightPlan {
  return asksForBands(sheet) ? planBeside(plan, setting, tops) : planOnPiece(plan, tops);
}

/** The layer heights of a trial on a piece. */
export function heightsOfPiece(tops: readonly number[]): { layerHeightMm: number; firstLayerHeightMm: number } {
  const layerHeightMm = layerMmOf(tops);
  return { layerHeightMm, firstLayerHeightMm: Math.min(tops[0], layerHeightMm) };
}
