/** What a client may say when it asks for a tune. */
import { z } from "zod";
import { tuneKeys } from ".";

const figures = z.record(z.string().max(40), z.number({ error: "A value must be a number" }));

export const tuneAskSchema = z.object({
  tune: z.enum(tuneKeys, { error: `The tune is one of ${tuneKeys.join(", ")}` }),
  inputs: figures.default({}),
  /** Firmware values as they are now, by id. */
  values: figures.default({}),
});

export type TuneAsk = z.infer<typeof tuneAskSchema>;
