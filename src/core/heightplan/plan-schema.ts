/** A height plan as it comes over a border. */
import { z } from "zod";
import { settingFor, settingKeys } from "../settings";
import { freeLinesSchema } from "../settings/free-lines-schema";
import { settingValuesSchema } from "../settings/values-schema";
import { HIGHEST_BASE_MM, LOWEST_BAND_MM, MOST_BANDS, MOST_LEAD_LAYERS, MOST_SIDE_BY_SIDE } from "./plan";

const bandSchema = z.object({
  heightMm: z
    .number({ error: "A band's height must be a number in mm" })
    .min(LOWEST_BAND_MM, `A band must be at least ${LOWEST_BAND_MM} mm high`)
    .max(500, "A band must be at most 500 mm high"),
  settings: settingValuesSchema,
  lines: freeLinesSchema.optional(),
});

const sideBySideSchema = z
  .object({
    setting: z.enum(settingKeys, { error: `The setting is one of ${settingKeys.join(", ")}` }),
    values: z
      .array(z.number({ error: "A value must be a number" }))
      .min(1, "Give at least one value")
      .max(MOST_SIDE_BY_SIDE, `At most ${MOST_SIDE_BY_SIDE} values fit side by side`),
  })
  .check(({ value: { setting, values }, issues }) => {
    const { label, lowest, highest, unit } = settingFor(setting);
    values.forEach((value, i) => {
      if (value >= lowest && value <= highest) return;
      issues.push({
        code: "custom",
        input: value,
        path: ["values", i],
        message: `${label} must be ${lowest} to ${highest} ${unit}`,
      });
    });
  });

export const heightPlanSchema = z.object({
  baseHeightMm: z
    .number({ error: "The base's height must be a number in mm" })
    .min(0, "The base cannot be lower than 0 mm")
    .max(HIGHEST_BASE_MM, `The base must be at most ${HIGHEST_BASE_MM} mm high`),
  bands: z
    .array(z.unknown(), { error: "The plan needs a list of bands" })
    .min(1, "The plan needs at least one band")
    .max(MOST_BANDS, `A plan has at most ${MOST_BANDS} bands`)
    // The bands are looked at one by one only when their number is sane: a million of them is one short answer.
    .pipe(z.array(bandSchema)),
  leadLayers: z
    .int({ error: "Layers are counted in whole numbers" })
    .min(0, "A change can only come earlier: 0 layers or more")
    .max(MOST_LEAD_LAYERS, `At most ${MOST_LEAD_LAYERS} layers early`)
    .optional(),
  sideBySide: sideBySideSchema.optional(),
});
