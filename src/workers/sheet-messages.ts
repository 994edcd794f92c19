/** What the page and its worker say to each other about a sheet. */
import { z } from "zod";
import type { Finding } from "@/core/findings/finding";
import { printerSchema } from "@/core/shelf/printer-schema";
import { spoolSchema } from "@/core/shelf/spool-schema";
import type { LaidSheet } from "@/core/sheets/lay-sheet";
import type { SheetFigures } from "@/core/sheets/program";
import { sheetSchema } from "@/core/sheets/sheet-schema";

const input = z.object({ sheet: sheetSchema, printer: printerSchema, spool: spoolSchema });

export const sheetRequestSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("lay"), request: z.number(), input }),
  z.object({ kind: z.literal("inspect"), request: z.number(), input }),
]);

export type SheetRequest = z.infer<typeof sheetRequestSchema>;

/** A sheet as it is drawn and played. */
export interface SheetView {
  laid: Pick<LaidSheet, "moves" | "row" | "stroke" | "fields" | "layerStarts" | "tops" | "strokes">;
  /** What is laid lies within these, mm; null where nothing is. */
  room: { minX: number; maxX: number; minY: number; maxY: number; maxZ: number } | null;
  /** When each move ends, s from the first. */
  endS: Float64Array;
  tookMs: number;
}

export interface SheetInspection {
  figures: SheetFigures;
  findings: Finding[];
  passed: string[];
  program: { bytes: Uint8Array<ArrayBuffer>; layerLines: number[]; lineOfMove: Uint32Array };
  /** Along the layers of the finished program. */
  layers: {
    tops: Float64Array;
    seconds: Float32Array;
    peakFlowMm3S: Float32Array;
    setC: Float64Array;
    expectedC: Float32Array;
    fanPercent: Float64Array;
  };
}

export type SheetAnswer =
  | { kind: "laid"; request: number; view: SheetView }
  | { kind: "inspected"; request: number; inspection: SheetInspection }
  | { kind: "wrong"; request: number; field: string; message: string }
  | { kind: "progress"; request: number; moves: number }
  | { kind: "failed"; request: number; message: string };
