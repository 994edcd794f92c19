/** A height plan: the base and the bands above it. */
import { SettingKey, settingKeys, SettingValues } from "../settings";
import { roundTo } from "../units";
import { firstLayerAbove, layerBottomMm, LayerTops } from "./layer-grid";

export interface Band {
  heightMm: number;
  settings: SettingValues;
  /** Lines of the user's own, put in where the band starts. */
  lines?: string[];
}

/** Values of one setting that stand side by side in every layer, one on each spot of the specimen. */
export interface SideBySide {
  setting: SettingKey;
  values: number[];
}

export interface HeightPlan {
  baseHeightMm: number;
  bands: Band[];
  /** The nozzle's temperature changes so many layers before its band starts, so that the nozzle has time to follow. */
  leadLayers?: number;
  sideBySide?: SideBySide;
}

export const MOST_BANDS = 200;
export const LOWEST_BAND_MM = 0.05;
export const HIGHEST_BASE_MM = 50;
export const MOST_LEAD_LAYERS = 50;
export const MOST_SIDE_BY_SIDE = 80;
/** More pairs of values than this nobody prints, and nobody reads. */
export const MOST_PAIRS = 1000;

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
  lines?: string[];
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
      ...(band.lines ? { lines: band.lines } : {}),
    };
  });
}

/** The band a layer belongs to, or undefined on the base. */
export function bandOfLayer(bands: readonly ResolvedBand[], layer: number): ResolvedBand | undefined {
  return bands.find((band) => layer >= band.firstLayer && layer <= band.lastLayer);
}

/** Settings that the bands of a plan set, in the order of all settings. */
export function variedKeys(bands: readonly { settings: SettingValues }[]): SettingKey[] {
  return settingKeys.filter((key) => bands.some(({ settings }) => settings[key] !== undefined));
}
