/** What the page and its worker say to each other about a trial. */
import { z } from "zod";
import type { Explanation } from "@/core/firmware/explain";
import type { Held } from "@/core/firmware/holds";
import type { MoveTable } from "@/core/gcode/moves";
import { settingKeys } from "@/core/settings";
import { settingValuesSchema } from "@/core/settings/values-schema";
import { printerSchema } from "@/core/shelf/printer-schema";
import { spoolSchema } from "@/core/shelf/spool-schema";
import { trialSchema } from "@/core/trials/trial-schema";
import type { TrialView } from "@/core/trials/view";

const ceilingSchema = z.object({ accelerationMmS2: z.number().positive(), readAt: z.string() });

const expectedSchema = z.partialRecord(
  z.enum(settingKeys),
  z.object({ value: z.number(), fromValue: z.number(), toValue: z.number(), why: z.string() }),
);

export const trialRequestSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("build"),
    request: z.number(),
    input: z.object({
      trial: trialSchema,
      printer: printerSchema,
      spool: spoolSchema,
      kept: settingValuesSchema.optional(),
      expected: expectedSchema.optional(),
      ceiling: ceilingSchema.nullish(),
    }),
  }),
  z.object({ kind: z.literal("program"), request: z.number() }),
  z.object({ kind: z.literal("moves"), request: z.number() }),
  z.object({ kind: z.literal("holds"), request: z.number(), line: z.int().min(0) }),
]);

export type TrialRequest = z.infer<typeof trialRequestSchema>;

export type { TrialView } from "@/core/trials/view";

/** The move table without what only the builder needs, with the spot of each layer. */
export interface TrialMoves {
  moves: Pick<MoveTable, "count" | "x" | "y" | "z" | "kind" | "layer">;
  layerStarts: Uint32Array;
}

export interface TrialProgram {
  bytes: Uint8Array<ArrayBuffer>;
  /** Lines (from 0) that the plan put in. */
  insertedLines: number[];
  /** First line of each layer. */
  layerLines: number[];
}

/** A line of the program: what its words mean, and what holds behind it. */
export interface LineMeaning {
  line: number;
  words: Explanation;
  holds: Held[];
}

export type TrialAnswer =
  | { kind: "view"; request: number; view: TrialView }
  | { kind: "program"; request: number; program: TrialProgram | null }
  | { kind: "moves"; request: number; moves: TrialMoves | null }
  | { kind: "holds"; request: number; meaning: LineMeaning | null }
  | { kind: "failed"; request: number; message: string };
