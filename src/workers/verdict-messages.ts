/** What the page and its worker say to each other about what was read. */
import { z } from "zod";
import { readingSchema, weightsSchema } from "@/core/reading/reading-schema";
import type { Verdict } from "@/core/reading/verdict";
import { printerSchema } from "@/core/shelf/printer-schema";
import type { Unit } from "@/core/trials/run";
import { trialSchema } from "@/core/trials/trial-schema";

/** Bands come as the server sent them; what has no value of its own has none in JSON. */
const units = z.array(z.custom<Unit>((one) => typeof (one as Unit | null)?.band === "number"));

export const verdictRequestSchema = z.object({
  request: z.number(),
  run: z.object({ id: z.number(), trial: trialSchema, printer: printerSchema }),
  units,
  readers: z.array(readingSchema.pick({ marks: true, measures: true }).required()),
  weights: weightsSchema,
});

export type VerdictMessage = z.infer<typeof verdictRequestSchema>;

export type VerdictAnswer =
  { kind: "verdict"; request: number; verdict: Verdict } | { kind: "failed"; request: number; message: string };
