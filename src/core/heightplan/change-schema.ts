/** Changes to an opened file as they come over a border. */
import { z } from "zod";
import { freeLinesSchema } from "../settings/free-lines-schema";
import { settingValuesSchema } from "../settings/values-schema";
import type { Place } from "./change";
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
const placeSchema: z.ZodType<Place> = z.union([heightPlace, layerPlace], {
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
