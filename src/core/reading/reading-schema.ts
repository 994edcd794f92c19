/** What a reader says of a run, as it comes over a border. */
import { z } from "zod";
import { aspects } from "./criterion";
import { criterionKeys } from ".";

const band = z
  .int({ error: "A band is a whole number" })
  .min(1, "Bands count from 1")
  .max(4000, "There is no such band");

export const readingSchema = z.object({
  marks: z
    .array(
      z.object({
        band,
        criterion: z.enum(criterionKeys, { error: `What is looked at is one of ${criterionKeys.join(", ")}` }),
        mark: z
          .union([z.literal(0), z.literal(1), z.literal(2), z.literal(3), z.literal(4)], {
            error: "A mark is 0, useless, to 4, as wanted, or null for “cannot tell”",
          })
          .nullable(),
      }),
      { error: "Send a list of marks: [{band, criterion, mark}]" },
    )
    .max(40_000, "More marks than a piece can have")
    .optional(),
  measures: z
    .array(
      z.object({
        band,
        what: z.string().max(40),
        valuesMm: z
          .array(
            z
              .number({ error: "A length must be a number in mm" })
              .positive("A length is above 0 mm")
              .max(1000, "A length is at most 1000 mm"),
          )
          .max(50, "At most 50 lengths a band"),
      }),
    )
    .max(4000, "More lengths than a piece can have")
    .optional(),
  note: z.string().max(2000, "The note is longer than 2000 characters").optional(),
});

const weight = z
  .number({ error: "A weight is a number" })
  .min(0, "A weight is at least 0")
  .max(10, "A weight is at most 10");

/** `{looks: 1, strength: 0.5, speed: 2, strings: 0}` */
export const weightsSchema = z.partialRecord(
  z.enum([...aspects, "speed", ...criterionKeys], {
    error: `A weight is given to ${[...aspects, "speed"].join(", ")} or one of ${criterionKeys.join(", ")}`,
  }),
  weight,
);
