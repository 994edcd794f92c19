/** What the moves of one layer say about settings that live inside moves. */
import { LONGEST_RETRACTION_MM } from "../gcode/filament-cycles";
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";

/** Looks at the moves of a layer one by one, and answers. */
export interface Measure {
  /** Which moves it is shown: those that lay, those that travel, or those that draw the filament back and the first that feeds again. */
  looksAt: "laying" | "travel" | "filament";
  /** Looks at move `i`, which is `lengthMm` long in the plane. */
  see(moves: MoveTable, i: number, lengthMm: number): void;
  /** The value the moves seen so far tell, NaN if none; starts anew. */
  take(): number;
}

/** The value that weighs most. */
class Heaviest {
  private readonly weights = new Map<number, number>();
  private last = NaN;
  private lastWeight = 0;

  /** Most values come many times in a row: they are added up before they are looked for. */
  add(value: number, weight: number): void {
    if (value === this.last) {
      this.lastWeight += weight;
      return;
    }
    this.settle();
    this.last = value;
    this.lastWeight = weight;
  }

  take(): number {
    this.settle();
    let best = NaN;
    let most = 0;
    for (const [value, weight] of this.weights) {
      if (weight <= most) continue;
      most = weight;
      best = value;
    }
    this.weights.clear();
    this.last = NaN;
    return best;
  }

  private settle(): void {
    if (!Number.isNaN(this.last)) this.weights.set(this.last, (this.weights.get(this.last) ?? 0) + this.lastWeight);
    this.lastWeight = 0;
  }
}

const toHundredths = (value: number) => Math.round(value * 100) / 100;

/** The feed most of a layer is laid at, mm/s. */
export function layingFeed(): Measure {
  const feeds = new Heaviest();
  return {
    looksAt: "laying",
    see: ({ feedMmS }, i, lengthMm) => feeds.add(toHundredths(feedMmS[i]), lengthMm),
    take: () => feeds.take(),
  };
}

/** The feed most of its travelling in the plane is done at, mm/s; lifts and wipes do not count. */
export function travelFeed(): Measure {
  const feeds = new Heaviest();
  return {
    looksAt: "travel",
    see({ feedMmS, filamentMm }, i, lengthMm) {
      if (lengthMm > 0.5 && filamentMm[i] === 0) feeds.add(toHundredths(feedMmS[i]), lengthMm);
    },
    take: () => feeds.take(),
  };
}

/**
 * How far the filament is drawn back before most travels, standing and while it moves taken together, mm. A length that the program
 * leaves to the printer (G10 without M207) is 0 in the move table and tells nothing; changes of filament do not count.
 */
export function drawnBack(): Measure {
  const lengths = new Heaviest();
  let drawnMm = 0;
  const settle = () => {
    if (drawnMm > 1e-4 && drawnMm <= LONGEST_RETRACTION_MM) lengths.add(Math.round(drawnMm * 1e4) / 1e4, 1);
    drawnMm = 0;
  };
  return {
    looksAt: "filament",
    see({ filamentMm }, i) {
      if (filamentMm[i] < -1e-6) drawnMm -= filamentMm[i];
      else if (filamentMm[i] > 1e-6 && drawnMm > 0) settle();
    },
    take() {
      settle();
      return lengths.take();
    },
  };
}

/** The feed most of the drawing back standing still is done at, mm/s. */
export function drawingFeed(): Measure {
  const feeds = new Heaviest();
  return {
    looksAt: "filament",
    see({ kind, feedMmS, filamentMm }, i) {
      const drawn = kind[i] === MoveKind.retract && filamentMm[i] < 0 && -filamentMm[i] <= LONGEST_RETRACTION_MM;
      if (drawn && Number.isFinite(feedMmS[i])) feeds.add(toHundredths(feedMmS[i]), 1);
    },
    take: () => feeds.take(),
  };
}

/** Lets the measures see the moves `from` to `to` (the last one included); with `only`, those that one tool makes. */
export function seeMoves(
  measures: readonly Measure[],
  moves: MoveTable,
  from: number,
  to: number,
  only: { tools: Uint8Array; tool: number } | null = null,
): void {
  const { x, y, kind, filamentMm } = moves;
  const laying = measures.filter(({ looksAt }) => looksAt === "laying");
  const travelling = measures.filter(({ looksAt }) => looksAt === "travel");
  const filament = measures.filter(({ looksAt }) => looksAt === "filament");
  let drawn = false;
  for (let i = Math.max(1, from); i <= to; i++) {
    if (only && only.tools[i] !== only.tool) continue;
    const dx = x[i] - x[i - 1];
    const dy = y[i] - y[i - 1];
    const length = Math.sqrt(dx * dx + dy * dy);
    const lays = laysMaterial(kind[i]);
    const shown = lays ? laying : travelling;
    for (let m = 0; m < shown.length; m++) shown[m].see(moves, i, length);
    if (filamentMm[i] === 0 || (lays && !drawn)) continue;
    drawn = filamentMm[i] < 0;
    for (let m = 0; m < filament.length; m++) filament[m].see(moves, i, length);
  }
}
