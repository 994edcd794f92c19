/** What came of a tune, as it comes over a border. */
import { z } from "zod";
import { settingValuesSchema } from "../settings/values-schema";

/** New figures of a printer on the shelf that tunes find. */
const printerFigures = z.object({ highestFlowMm3S: z.number().optional() });

export const tuneResultSchema = z.object({
  /** Firmware values in force, by id. */
  firmware: z.record(z.string().max(40), z.number({ error: "A value must be a number" })).default({}),
  settings: settingValuesSchema.default({}),
  printer: printerFigures.default({}),
});
