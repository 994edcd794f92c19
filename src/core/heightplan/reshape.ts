/**
 * Changes to a plan as people make them: pure, so that undo is just keeping the plan from before.
 *
 * Law: what a change does not name, it keeps.
 */
import { SettingKey, settingFor, SettingValues } from "../settings";
import { clamp, roundTo } from "../units";
import { Band, bandEdgesMm, HeightPlan, HIGHEST_BASE_MM, MOST_BANDS, variedKeys } from "./plan";

const LOWEST_DRAGGED_MM = 0.4;

/** Sets one value of one band (index from 0). */
export function setValue(plan: HeightPlan, index: number, key: SettingKey, value: number): HeightPlan {
  return {
    ...plan,
    bands: plan.bands.map((band, i) =>
      i === index ? { ...band, settings: { ...band.settings, [key]: value } } : band,
    ),
  };
}

/** Sets the height of one band, mm; the bands above move with it. */
export function setBandHeight(plan: HeightPlan, index: number, heightMm: number): HeightPlan {
  return { ...plan, bands: plan.bands.map((band, i) => (i === index ? { ...band, heightMm } : band)) };
}

/**
 * Moves the lower edge of a band (index from 0) to a height, in tenths of a millimetre. The band below gives or takes the
 * room; below the first band it is the base. Held where a neighbour would become lower than a band may be.
 */
export function moveEdge(plan: HeightPlan, index: number, toMm: number): HeightPlan {
  const edges = bandEdgesMm(plan);
  // By hand a band is not made lower than can be taken hold of, unless it is already.
  const least = (of: number) => Math.min(LOWEST_DRAGGED_MM, edges[of + 1] - edges[of]);
  const lowest = index === 0 ? 0 : edges[index - 1] + least(index - 1);
  const highest = edges[index + 1] - least(index);
  const edge = roundTo(clamp(toMm, lowest, index === 0 ? Math.min(highest, HIGHEST_BASE_MM) : highest), 1);
  const shift = roundTo(edge - edges[index], 6);
  const bands = plan.bands.map((band, i) => {
    if (i === index) return { ...band, heightMm: roundTo(band.heightMm - shift, 6) };
    if (i === index - 1) return { ...band, heightMm: roundTo(band.heightMm + shift, 6) };
    return band;
  });
  return { ...plan, baseHeightMm: index === 0 ? edge : plan.baseHeightMm, bands };
}

/** Adds a band on top: every setting one step on from the last two bands. */
export function addBand(plan: HeightPlan): HeightPlan {
  const last = plan.bands[plan.bands.length - 1];
  const before = plan.bands[plan.bands.length - 2];
  const settings: SettingValues = { ...last.settings };
  for (const key of variedKeys([last])) {
    const { lowest, highest, step, decimals } = settingFor(key);
    const value = last.settings[key]!;
    const difference = before?.settings[key] === undefined ? -step : value - before.settings[key];
    settings[key] = clamp(roundTo(value + difference, decimals), lowest, highest);
  }
  return { ...plan, bands: [...plan.bands, { heightMm: last.heightMm, settings }] };
}

/** Lets another setting vary: every band gets `value` to begin with. */
export function varySetting(plan: HeightPlan, key: SettingKey, value: number): HeightPlan {
  const { lowest, highest } = settingFor(key);
  const start = clamp(value, lowest, highest);
  const bands = plan.bands.map((band) => ({ ...band, settings: { [key]: start, ...band.settings } }));
  return { ...plan, bands };
}

/** Takes a setting out of all bands. */
export function holdSetting(plan: HeightPlan, key: SettingKey): HeightPlan {
  const bands = plan.bands.map((band) => {
    const { [key]: _held, ...settings } = band.settings;
    return { ...band, settings };
  });
  return { ...plan, bands };
}

/** Lines of the user's own at the start of one band; none takes them away. */
export function setLines(plan: HeightPlan, index: number, lines: string[]): HeightPlan {
  const bands = plan.bands.map((band, i) => {
    if (i !== index) return band;
    const { lines: _before, ...rest } = band;
    return lines.length > 0 ? { ...rest, lines } : rest;
  });
  return { ...plan, bands };
}

/** Takes a band out; the last one stays. */
export function removeBand(plan: HeightPlan, index: number): HeightPlan {
  return plan.bands.length <= 1 ? plan : { ...plan, bands: plan.bands.filter((_, i) => i !== index) };
}

/** Bands with values of one setting in even steps, all of one height; what else the bands set stays. */
export function fillBands(
  plan: HeightPlan,
  key: SettingKey,
  fill: { start: number; step: number; count: number; heightMm: number },
): Band[] {
  const { lowest, highest, decimals } = settingFor(key);
  return Array.from({ length: clamp(Math.round(fill.count), 1, MOST_BANDS) }, (_, i) => {
    const like = plan.bands[Math.min(i, plan.bands.length - 1)];
    return {
      ...like,
      heightMm: fill.heightMm,
      settings: { ...like?.settings, [key]: clamp(roundTo(fill.start + i * fill.step, decimals), lowest, highest) },
    };
  });
}
