/** A trial as it comes over a border. */
import { z } from "zod";
import { MOST_SIDE_BY_SIDE } from "../heightplan/plan";
import { heightPlanSchema } from "../heightplan/plan-schema";
import { optionsSchema } from "../options/options-schema";
import { settingKeys } from "../settings";
import { settingValuesSchema } from "../settings/values-schema";
import { plainText } from "../shelf/name";
import { sheetSchema } from "../sheets/sheet-schema";
import { trialKindKeys } from ".";

const heightFigure = (what: string) =>
  z
    .number({ error: `${what} must be a number in mm` })
    .min(0.04, `${what} must be at least 0.04 mm`)
    .max(1.2, `${what} must be at most 1.2 mm`);

/** A whole number above 0 that names a record. */
export const idSchema = (what: string) =>
  z.int({ error: `${what} is a whole number` }).positive({ error: `${what} is a whole number above 0` });

const sideSchema = z.object({
  setting: z.enum(settingKeys, { error: `The setting is one of ${settingKeys.join(", ")}` }),
  values: z
    .array(z.number({ error: "A value must be a number" }))
    .min(1, "Give at least one value")
    .max(MOST_SIDE_BY_SIDE, `At most ${MOST_SIDE_BY_SIDE} values fit`),
});

/** The two settings of a matrix with their values, as they are asked for at once: one stands side by side, the other goes up. */
export const ofTwoSchema = z.object({ across: sideSchema.optional(), up: sideSchema.optional() });

export type OfTwo = z.infer<typeof ofTwoSchema>;

/** What a client may say of a new trial; without `plan` the kind's first round is taken. */
export const newTrialSchema = z.object({
  kind: z.enum(trialKindKeys, { error: `The kind is one of ${trialKindKeys.join(", ")}` }),
  name: plainText("The name", 100).optional(),
  printerId: idSchema("printerId"),
  spoolId: idSchema("spoolId"),
  /** Half the nozzle's width where they are left out. */
  layerHeightMm: heightFigure("Layer height").optional(),
  firstLayerHeightMm: heightFigure("First layer height").optional(),
  plan: heightPlanSchema.optional(),
  fixed: settingValuesSchema.optional(),
  /** Which tool prints it, from 0. */
  tool: z
    .int({ error: "A tool is a whole number" })
    .min(0, "Tools count from 0")
    .max(7, "At most 8 tools, 0 to 7")
    .default(0),
  /** What the kind leaves to choose; see the kind's own options. */
  options: optionsSchema.default({}),
  /** A piece of one's own instead of the kind's, as it was when the trial was made of it. */
  sheet: sheetSchema.optional(),
});

/** What may be changed later. */
export const trialChangeSchema = newTrialSchema
  .omit({ kind: true })
  .extend({
    layerHeightMm: heightFigure("Layer height"),
    firstLayerHeightMm: heightFigure("First layer height"),
    tool: newTrialSchema.shape.tool.unwrap(),
    options: optionsSchema,
  })
  .partial();

export const trialSchema = newTrialSchema
  .required({ name: true, plan: true, fixed: true, layerHeightMm: true, firstLayerHeightMm: true })
  .extend({
    id: idSchema("id"),
    /** Which round of its question it is, and the trial it goes on from. */
    round: z.int().positive().optional(),
    from: idSchema("from").nullable().optional(),
    /** ISO dates. */
    createdAt: z.string(),
    updatedAt: z.string(),
  });

export type NewTrial = z.infer<typeof newTrialSchema>;
export type Trial = z.infer<typeof trialSchema>;
