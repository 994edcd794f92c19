/** Sheets for tests, and what comes of them. */
import { laysMaterial } from "@/core/gcode/moves";
import { LaidSheet, laySheet, SheetWays } from "@/core/sheets/lay-sheet";
import type { Sheet } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";

/** A printer that lifts nothing and comes from the bed's corner. */
export const ways: SheetWays = {
  travelMmS: 150,
  liftMmS: 10,
  retractionMm: 1,
  retractionMmS: 30,
  hopMm: 0,
  filamentDiameterMm: 1.75,
  start: { x: 0, y: 0 },
};

export const sheetOf = (items: object[], change: object = {}): Sheet =>
  sheetSchema.parse({
    version: 1,
    name: "A sheet",
    figures: [],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items,
    ...change,
  });

export function laidOf(items: object[], change: object = {}, own: Partial<SheetWays> = {}): LaidSheet {
  const result = laySheet(sheetOf(items, change), { ...ways, ...own });
  if (!result.ok) throw new Error(`${result.field}: ${result.message}`);
  return result.value;
}

export interface LaidSegment {
  x0: number;
  y0: number;
  z0: number;
  x1: number;
  y1: number;
  z1: number;
  filamentMm: number;
  kind: number;
}

export function segmentsOf({ moves }: LaidSheet): LaidSegment[] {
  const found: LaidSegment[] = [];
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    const [x0, y0, z0] = [moves.x[i - 1], moves.y[i - 1], moves.z[i - 1]];
    const [x1, y1, z1] = [moves.x[i], moves.y[i], moves.z[i]];
    found.push({ x0, y0, z0, x1, y1, z1, filamentMm: moves.filamentMm[i], kind: moves.kind[i] });
  }
  return found;
}

export const pathMm = (all: readonly LaidSegment[]): number =>
  all.reduce((sum, { x0, y0, z0, x1, y1, z1 }) => sum + Math.hypot(x1 - x0, y1 - y0, z1 - z0), 0);
