/** Chosen options as they come over a border; whether the kind has them is looked at by `checkOptions`. */
import { z } from "zod";

export const optionsSchema = z.record(
  z.string().max(40),
  z.union([z.number(), z.string().max(40), z.boolean()], { error: "An option is a number, a text, or true or false" }),
);
