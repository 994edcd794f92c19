/** A height plan: the base and the bands above it. */
import { z } from "zod";
import { SettingValues, settingValuesSchema } from "../settings";
import { roundTo } from "../units";
import { firstLayerAbove, layerBottomMm, LayerTops } from "./layer-grid";

export interface Band {
  heightMm: number;
  settings: SettingValues;
}

export interface HeightPlan {
  baseHeightMm: number;
  bands: Band[];
}

export const MOST_BANDS = 200;

const bandSchema = z.object({
  heightMm: z
    .number({ error: "A band's height must be a number in mm" })
    .min(0.4, "A band must be at least 0.4 mm high")
    .max(500, "A band must be at most 500 mm high"),
  settings: settingValuesSchema,
});

export const heightPlanSchema = z.object({
  baseHeightMm: z
    .number({ error: "The base's height must be a number in mm" })
    .min(0, "The base cannot be lower than 0 mm")
    .max(50, "The base must be at most 50 mm high"),
  bands: z
    .array(z.unknown(), { error: "The plan needs a list of bands" })
    .min(1, "The plan needs at least one band")
    .max(MOST_BANDS, `A plan has at most ${MOST_BANDS} bands`)
    // The bands are looked at one by one only when their number is sane: a million of them is one short answer.
    .pipe(z.array(bandSchema)),
});

/** A band on the layers of a program. */
export interface ResolvedBand {
  /** From 1, bottom first. */
  number: number;
  /** Where it was asked to start and end, mm. */
  askedFromMm: number;
  askedToMm: number;
  /** Where it starts and ends on whole layers, mm. */
  fromMm: number;
  toMm: number;
  /** Index from 0. */
  firstLayer: number;
  lastLayer: number;
  settings: SettingValues;
}

/** Height of the whole plan, mm. */
export function planHeightMm(plan: HeightPlan): number {
  return roundTo(plan.baseHeightMm + plan.bands.reduce((sum, band) => sum + band.heightMm, 0), 6);
}

/** Heights at which the bands start, mm, and the end of the last: `bands.length + 1` figures. */
export function bandEdgesMm(plan: HeightPlan): number[] {
  const edges = [roundTo(plan.baseHeightMm, 6)];
  for (const band of plan.bands) edges.push(roundTo(edges[edges.length - 1] + band.heightMm, 6));
  return edges;
}

/**
 * The bands on whole layers. A band's first layer is the first one that lies wholly or partly above its start; a band that
 * no layer starts in (thinner than a layer, or above the last one) has `lastLayer < firstLayer`.
 */
export function resolveBands(plan: HeightPlan, tops: LayerTops): ResolvedBand[] {
  const edges = bandEdgesMm(plan);
  const firsts = edges.map((edge) => firstLayerAbove(tops, edge));
  return plan.bands.map((band, index) => {
    const last = index === plan.bands.length - 1;
    const firstLayer = firsts[index];
    const lastLayer = (last ? tops.length : firsts[index + 1]) - 1;
    return {
      number: index + 1,
      askedFromMm: edges[index],
      askedToMm: edges[index + 1],
      fromMm: layerBottomMm(tops, firstLayer),
      toMm: lastLayer >= 0 && lastLayer < tops.length ? tops[lastLayer] : layerBottomMm(tops, lastLayer + 1),
      firstLayer,
      lastLayer,
      settings: band.settings,
    };
  });
}

/** The band a layer belongs to, or undefined on the base. */
export function bandOfLayer(bands: readonly ResolvedBand[], layer: number): ResolvedBand | undefined {
  return bands.find((band) => layer >= band.firstLayer && layer <= band.lastLayer);
}
