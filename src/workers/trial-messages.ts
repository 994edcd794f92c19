/** What the page and its worker say to each other about a trial. */
import { z } from "zod";
import type { Finding } from "@/core/findings/finding";
import type { Explanation } from "@/core/firmware/explain";
import type { Held } from "@/core/firmware/holds";
import type { MoveTable } from "@/core/gcode/moves";
import type { ResolvedBand } from "@/core/heightplan/plan";
import type { FrontView } from "@/core/printing/front-view";
import { settingValuesSchema } from "@/core/settings/values-schema";
import { printerSchema } from "@/core/shelf/printer-schema";
import { spoolSchema } from "@/core/shelf/spool-schema";
import type { Spot } from "@/core/specimens/specimen";
import { trialSchema } from "@/core/trials/trial-schema";

const ceilingSchema = z.object({ accelerationMmS2: z.number().positive(), readAt: z.string() });

export const trialRequestSchema = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("build"),
    request: z.number(),
    input: z.object({
      trial: trialSchema,
      printer: printerSchema,
      spool: spoolSchema,
      kept: settingValuesSchema.optional(),
      ceiling: ceilingSchema.nullish(),
    }),
  }),
  z.object({ kind: z.literal("program"), request: z.number() }),
  z.object({ kind: z.literal("moves"), request: z.number() }),
  z.object({ kind: z.literal("holds"), request: z.number(), line: z.int().min(0) }),
]);

export type TrialRequest = z.infer<typeof trialRequestSchema>;

/** All the trial page shows of a built trial, but for its text and its moves. */
export interface TrialView {
  tops: Float64Array;
  bands: ResolvedBand[];
  front: FrontView;
  widthMm: number;
  /** What carries the values on the piece, in a sentence or two. */
  legend: string;
  /** Spots of side-by-side values in bed coordinates, mm. */
  spots: Spot[];
  /** Time of each layer, and its flow: the mean, and the most any move asks for. */
  layers: { seconds: Float32Array; flowMm3S: Float32Array; peakFlowMm3S: Float32Array };
  nozzle: { setC: Float64Array; expectedC: Float32Array };
  fan: { setPercent: Float64Array; expectedPercent: Float32Array };
  /** Share (0–1) of each band's height in which the nozzle is settled. */
  bandSettled: number[];
  /** Layers by which the nozzle is best told earlier; null if it does not vary. */
  lead: { layers: number; share: number } | null;
  seconds: number;
  filamentMm: number;
  massG: number;
  cost: number | null;
  findings: Finding[];
  passed: string[];
  /** How long the worker took, ms. */
  tookMs: number;
}

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
