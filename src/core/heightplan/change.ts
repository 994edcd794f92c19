/** The form a plan takes on an opened file: from a place on, until another, these values. */
import { z } from "zod";
import { settingValuesSchema, SettingValues } from "../settings";
import { freeLinesSchema } from "../settings/free-lines";
import { HEIGHT_TOLERANCE_MM } from "../units";
import { MOST_BANDS, MOST_LEAD_LAYERS } from "./plan";

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
  leadLayers: z
    .int({ error: "Layers are counted in whole numbers" })
    .min(0, "A change can only come earlier: 0 layers or more")
    .max(MOST_LEAD_LAYERS, `At most ${MOST_LEAD_LAYERS} layers early`)
    .optional(),
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
  /** The nozzle's temperature changes so many layers before it starts, so that the nozzle has time to follow. */
  leadLayers?: number;
}

/** Whether a layer with its top at `zMm` lies wholly or partly above the place. */
export function isAbove(place: Place, index: number, zMm: number): boolean {
  if ("heightMm" in place) return zMm > place.heightMm + HEIGHT_TOLERANCE_MM;
  return index >= place.layer - place.countsFrom;
}
