/** How much plastic a program asks for. */
import { filamentAreaMm2 } from "../material/bead";
import type { Spool } from "../shelf/spool";
import type { ProgramReport } from "./report";

/** The most any move asks for, mm³/s, and the layer (from 0) it is in; -1 where nothing is laid. */
export function mostFlowMm3S({ layers }: ProgramReport, { diameterMm }: Spool): { flowMm3S: number; layer: number } {
  const area = filamentAreaMm2(diameterMm);
  let [flowMm3S, layer] = [0, -1];
  for (const { index, peakFilamentMmS } of layers) {
    if (peakFilamentMmS * area <= flowMm3S) continue;
    flowMm3S = peakFilamentMmS * area;
    layer = index;
  }
  return { flowMm3S, layer };
}
