/** What is wanted layer by layer, whatever form the plan was given in. */
import { SettingKey, settingKeys } from "../settings";
import { Change, isAbove } from "./change";
import { ResolvedBand } from "./plan";

/** Wanted values per layer index; NaN where the plan says nothing. */
export type PlannedValues = Partial<Record<SettingKey, Float64Array>>;

/** A plan spread over layers: what holds in each, and where it comes from. */
export interface Followed {
  planned: PlannedValues;
  /** Index of the band or change each layer follows, per setting; -1 where none holds. */
  followed: Partial<Record<SettingKey, Int32Array>>;
  /** 1 for layers in which the bands are read on the piece; all of them where it is left out. */
  judged?: Uint8Array;
}

/** The two columns of a setting, made if they are not there yet. */
export function columnsOf(
  plan: Followed,
  key: SettingKey,
  layerCount: number,
): { values: Float64Array; who: Int32Array } {
  const values = (plan.planned[key] ??= new Float64Array(layerCount).fill(NaN));
  const who = (plan.followed[key] ??= new Int32Array(layerCount).fill(-1));
  return { values, who };
}

/**
 * The bands of a trial's plan, spread over `layerCount` layers. With `leadLayers` the nozzle's temperature changes that many
 * layers before its band starts; the first band's holds from its own start.
 */
export function followBands(bands: readonly ResolvedBand[], layerCount: number, leadLayers = 0): Followed {
  const plan: Followed = { planned: {}, followed: {} };
  bands.forEach((band, index) => {
    if (band.lastLayer < band.firstLayer) return;
    for (const key of settingKeys) {
      const value = band.settings[key];
      if (value === undefined) continue;
      const { values, who } = columnsOf(plan, key, layerCount);
      const lead = key === "nozzleTemperature" && index > 0 ? leadLayers : 0;
      // Never before the band below has begun to hold.
      const from = Math.max(band.firstLayer - lead, index > 0 ? bands[index - 1].firstLayer + 1 : 0, 0);
      values.fill(value, Math.min(from, band.firstLayer), band.lastLayer + 1);
      who.fill(index, Math.min(from, band.firstLayer), band.lastLayer + 1);
    }
  });
  return plan;
}

/** Changes followed along the layers; the indexes are those of the changes. */
export interface FollowedChanges extends Followed {
  /** First layer of each change, `layers.length` if it is above the piece. */
  firstLayers: number[];
}

/**
 * Follows changes along the layers of a program. Of two changes that hold in a layer, the one that starts later wins; of
 * two that start together, the one later in the list. With `leadLayers` the nozzle's temperature begins so many layers earlier.
 */
export function followChanges(changes: readonly Change[], layers: readonly { zMm: number }[]): FollowedChanges {
  const holds = changes.map(({ from, until }) =>
    Uint8Array.from(layers, ({ zMm }, index) =>
      isAbove(from, index, zMm) && !(until && isAbove(until, index, zMm)) ? 1 : 0,
    ),
  );
  const firstLayers = holds.map((column) => {
    const first = column.indexOf(1);
    return first < 0 ? layers.length : first;
  });
  const order = changes.map((_, i) => i).sort((a, b) => firstLayers[a] - firstLayers[b] || a - b);
  const plan: Followed = { planned: {}, followed: {} };
  for (const index of order) {
    for (const key of settingKeys) {
      const value = changes[index].settings[key];
      if (value === undefined) continue;
      const { values, who } = columnsOf(plan, key, layers.length);
      const lead = key === "nozzleTemperature" ? (changes[index].leadLayers ?? 0) : 0;
      // Never before the change below has begun to hold.
      const earliest = Math.max(
        0,
        who.findLastIndex((other, layer) => layer < firstLayers[index] && other !== who[layer - 1]) + 1,
      );
      for (let layer = Math.max(earliest, firstLayers[index] - lead); layer < layers.length; layer++) {
        if (layer >= firstLayers[index] && !holds[index][layer]) continue;
        values[layer] = value;
        who[layer] = index;
      }
    }
  }
  return { ...plan, firstLayers };
}
