/** What the moves of one layer say about settings that live inside moves. */
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";

export interface MoveFacts {
  /** Filament drawn back before most travels, mm; NaN if it is never drawn back. */
  retractionMm: number;
  /** Feed of drawing back, mm/s; NaN likewise. */
  retractionMmS: number;
  /** Feed at which most of the layer's length is laid, mm/s; NaN if nothing is laid. */
  printMmS: number;
}

/** The facts of the moves `from` to `to` (the last one included); with `only`, of those that one tool makes. */
export function moveFacts(
  moves: MoveTable,
  from: number,
  to: number,
  only: { tools: Uint8Array; tool: number } | null = null,
): MoveFacts {
  const lengths = new Map<number, number>();
  const speeds = new Map<number, number>();
  const laid = new Map<number, number>();
  const add = (counts: Map<number, number>, value: number, weight: number) =>
    counts.set(value, (counts.get(value) ?? 0) + weight);
  for (let i = Math.max(1, from); i <= to; i++) {
    if (only && only.tools[i] !== only.tool) continue;
    const kind = moves.kind[i];
    if (kind === MoveKind.retract) {
      add(lengths, Math.round(-moves.filamentMm[i] * 1e4) / 1e4, 1);
      add(speeds, Math.round(moves.feedMmS[i] * 100) / 100, 1);
    } else if (laysMaterial(kind)) {
      const length = Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
      add(laid, Math.round(moves.feedMmS[i] * 100) / 100, length);
    }
  }
  return { retractionMm: heaviest(lengths), retractionMmS: heaviest(speeds), printMmS: heaviest(laid) };
}

function heaviest(counts: Map<number, number>): number {
  let best = NaN;
  let most = 0;
  for (const [value, weight] of counts) {
    if (weight > most) {
      most = weight;
      best = value;
    }
  }
  return best;
}
