/** What is wanted layer by layer, whatever form the plan was given in. */
import { z } from "zod";
import { SettingKey, settingKeys, settingValuesSchema, SettingValues } from "../settings";
import { HEIGHT_TOLERANCE_MM } from "../units";
import { freeLinesSchema } from "../settings/free-lines";
import { MOST_BANDS, ResolvedBand } from "./plan";

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
  tool: z
    .int({ error: "A tool is a whole number" })
    .min(0, "Tools count from 0")
    .max(7, "At most 8 tools, 0 to 7")
    .optional(),
  lines: freeLinesSchema.optional(),
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
  /** Which tool it is for; the first where it is left out. */
  tool?: number;
  /** Lines of the user's own, put in where it starts. */
  lines?: string[];
}

/** Changes followed along the layers; the indexes are those of the changes. */
export interface FollowedChanges extends Followed {
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
  const plan: Followed = { planned: {}, followed: {} };
  for (const index of order) {
    for (const key of settingKeys) {
      const value = changes[index].settings[key];
      if (value === undefined) continue;
      const { values, who } = columnsOf(plan, key, layers.length);
      for (let layer = firstLayers[index]; layer < layers.length; layer++) {
        if (!holds[index][layer]) continue;
        values[layer] = value;
        who[layer] = index;
      }
    }
  }
  return { ...plan, firstLayers };
}
