/** Everything of the bench as one JSON (docs/values.md), as it comes over a border. */
import { z } from "zod";
import { settingKeys } from "../settings";
import { settingValuesSchema } from "../settings/values-schema";
import { plainText } from "../shelf/name";
import { printerSchema } from "../shelf/printer-schema";
import { spoolSchema } from "../shelf/spool-schema";
import { newTrialSchema } from "../trials/trial-schema";

export const BUNDLE_FORMAT = "cuchara-bench";
export const BUNDLE_VERSION = 1;

/** Which printer or spool of the same file is meant: its place in the list, from 0. */
const place = z.int({ error: "A place in a list is a whole number" }).min(0, "Places count from 0");
/** More than anybody has on a shelf; what is read in at once holds others up for no longer than it takes to write so many. */
const MOST = 500;

const keptSchema = z.object({
  printer: place,
  spool: place,
  setting: z.enum(settingKeys, { error: `The setting is one of ${settingKeys.join(", ")}` }),
  value: z.number({ error: "The value must be a number" }),
  fromValue: z.number().nullable().default(null),
  toValue: z.number().nullable().default(null),
  nozzleMm: z.number().positive().nullable().default(null),
  layerHeightMm: z.number().positive().nullable().default(null),
  inForce: settingValuesSchema.default({}),
  note: plainText("The note", 2000).default(""),
  keptAt: z.iso.datetime({ error: "keptAt is a date and time, like 2026-03-01T10:00:00Z" }),
});

export const bundleSchema = z
  .object({
    format: z.literal(BUNDLE_FORMAT, { error: `This is no bench: its format is not “${BUNDLE_FORMAT}”` }),
    version: z
      .int()
      .min(1)
      .max(BUNDLE_VERSION, `It was written by a newer Cuchara: this one reads version ${BUNDLE_VERSION}`),
    printers: z.array(printerSchema).max(MOST, `At most ${MOST} printers`),
    spools: z.array(spoolSchema).max(MOST, `At most ${MOST} spools`),
    kept: z.array(keptSchema).max(MOST * 10, `At most ${MOST * 10} kept values`),
    trials: z
      .array(newTrialSchema.omit({ printerId: true, spoolId: true }).extend({ printer: place, spool: place }))
      .max(MOST * 4, `At most ${MOST * 4} trials`)
      .default([]),
  })
  .superRefine(({ printers, spools, kept, trials }, context) => {
    for (const [list, rows] of Object.entries({ kept, trials })) {
      rows.forEach(({ printer, spool }, i) => {
        if (printer >= printers.length || spool >= spools.length) {
          context.addIssue({
            code: "custom",
            path: [list, i],
            message: "It speaks of a printer or spool that is not in the file",
          });
        }
      });
    }
  });

export type Bundle = z.infer<typeof bundleSchema>;
