import { bandEdgesMm, HeightPlan, planHeightMm, resolveBands } from "@/core/heightplan/plan";
import { layerTops } from "@/core/heightplan/layer-grid";
import { settingFor, SettingKey, SettingValues } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { LogBand } from "../heightlog/column";
import { valueColours } from "../theme/value-colours";

/** The plan's bands on the page's own layers, at once, without waiting for the worker. */
export function logBands(
  trial: { plan: HeightPlan; layerHeightMm: number; firstLayerHeightMm: number },
  key: SettingKey,
  note: (band: { index: number; settings: SettingValues }) => string | undefined,
): { bands: LogBand[]; tops: Float64Array; topMm: number } {
  const topMm = planHeightMm(trial.plan);
  const tops = layerTops(topMm, trial.firstLayerHeightMm, trial.layerHeightMm);
  const colours = valueColours(trial.plan.bands.map(({ settings }) => settings[key]));
  const edges = bandEdgesMm(trial.plan);
  const { decimals } = settingFor(key);
  const bands = resolveBands(trial.plan, tops).map((band, i) => ({
    number: band.number,
    fromMm: edges[i],
    toMm: edges[i + 1],
    firstLayer: band.firstLayer,
    lastLayer: band.lastLayer,
    colour: colours[i],
    label: band.settings[key] === undefined ? "" : plainNumber(band.settings[key], decimals),
    note: note({ index: i, settings: band.settings }),
  }));
  return { bands, tops, topMm: Math.max(topMm, tops[tops.length - 1]) };
}
