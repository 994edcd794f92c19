/** What is wanted layer by layer, whatever form the plan was given in. */
import { z } from "zod";
import { SettingKey, settingKeys, settingValuesSchema, SettingValues } from "../settings";
import { HEIGHT_TOLERANCE_MM } from "../units";
import { MOST_BANDS, ResolvedBand } from "./plan";

/** Wanted values per layer index; NaN where the plan says nothing. */
export type PlannedValues = Partial<Record<SettingKey, Float64Array>>;

/** The bands of a trial's plan, spread over `layerCount` layers. */
export function plannedFromBands(bands: readonly ResolvedBand[], layerCount: number): PlannedValues {
  const planned: PlannedValues = {};
  for (const band of bands) {
    for (const key of settingKeys) {
      const value = band.settings[key];
      if (value === undefined || band.lastLayer < band.firstLayer) continue;
      const column = (planned[key] ??= new Float64Array(layerCount).fill(NaN));
      column.fill(value, band.firstLayer, band.lastLayer + 1);
    }
  }
  return planned;
}

const heightPlace = z.strictObject({
  heightMm: z
    .number({ error: "A height must be a number in mm" })
    .min(0, "A height cannot be below the bed")
    .max(2000, "A height must be at most 2000 mm"),
});
const layerPlace = z.strictObject({
  layer: z
    .int({ error: "A layer is a whole number" })
    .min(0, "A layer number cannot be negative")
    .max(1_000_000, "There is no such layer"),
  countsFrom: z.union([z.literal(0), z.literal(1)], {
    error: "Say whether layers count from 0 or from 1 (countsFrom)",
  }),
});
const placeSchema = z.union([heightPlace, layerPlace], {
  error: "Say where: {heightMm} or {layer, countsFrom}",
});

export const changeSchema = z.strictObject({
  from: placeSchema,
  until: placeSchema.optional(),
  settings: settingValuesSchema,
});

export const changesSchema = z
  .array(z.unknown(), { error: "The plan needs a list of changes" })
  .min(1, "The plan needs at least one change")
  .max(MOST_BANDS, `A plan has at most ${MOST_BANDS} changes`)
  .pipe(z.array(changeSchema));

/** A place on the height axis. */
export type Place = z.infer<typeof placeSchema>;

/**
 * From a place on, other values hold: to the end, to the next change of the same setting, or until a place where the
 * value from before returns. A layer that lies only partly above a place counts as above it.
 */
export interface Change {
  from: Place;
  until?: Place;
  settings: SettingValues;
}

/** Which change (index) each layer follows, per setting; -1 where none holds. */
export interface FollowedChanges {
  planned: PlannedValues;
  followed: Partial<Record<SettingKey, Int32Array>>;
  /** First layer of each change, `layers.length` if it is above the piece. */
  firstLayers: number[];
}

/** Whether a layer with its top at `zMm` lies wholly or partly above the place. */
function isAbove(place: Place, index: number, zMm: number): boolean {
  if ("heightMm" in place) return zMm > place.heightMm + HEIGHT_TOLERANCE_MM;
  return index >= place.layer - place.countsFrom;
}

/**
 * Follows changes along the layers of a program. Of two changes that hold in a layer, the one that starts later wins; of
 * two that start together, the one later in the list.
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
  const planned: PlannedValues = {};
  const followed: FollowedChanges["followed"] = {};
  for (const index of order) {
    for (const key of settingKeys) {
      const value = changes[index].settings[key];
      if (value === undefined) continue;
      const values = (planned[key] ??= new Float64Array(layers.length).fill(NaN));
      const who = (followed[key] ??= new Int32Array(layers.length).fill(-1));
      for (let layer = firstLayers[index]; layer < layers.length; layer++) {
        if (!holds[index][layer]) continue;
        values[layer] = value;
        who[layer] = index;
      }
    }
  }
  return { planned, followed, firstLayers };
}
