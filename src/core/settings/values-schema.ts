/** Values of settings as they come over a border. */
import { z } from "zod";
import { settingFor, settingKeys, SettingValues } from ".";

/** `{nozzleTemperature: 220, …}` with every value inside what any printer can be told. */
export const settingValuesSchema: z.ZodType<SettingValues> = z
  .strictObject(
    Object.fromEntries(
      settingKeys.map((key) => {
        const { label, lowest, highest, unit } = settingFor(key);
        return [
          key,
          z
            .number({ error: `${label} must be a number in ${unit}` })
            .min(lowest, `${label} must be at least ${lowest} ${unit}`)
            .max(highest, `${label} must be at most ${highest} ${unit}`)
            .optional(),
        ];
      }),
    ),
    {
      error: (issue) =>
        issue.code === "unrecognized_keys"
          ? `“${String(issue.keys[0]).slice(0, 40)}” is not a setting; the settings are ${settingKeys.join(", ")}`
          : undefined,
    },
  )
  .transform((values) => values as SettingValues) as unknown as z.ZodType<SettingValues>;
