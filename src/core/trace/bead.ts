/** What holds at one bead, and what happened on the way to it. */
import { SLOTS } from "./fields";

/** What happens between two beads: all of it in sums, so that it can be compared within the figures a program is written in. */
export class Way {
  /** Moves without material, and how far they go. */
  moves = 0;
  lengthMm = 0;
  lowestMm = Infinity;
  highestMm = -Infinity;
  travelS = 0;
  /** Filament drawn back, and what is left of that when all is given back (below zero: still drawn back); the time it takes. */
  drawnMm = 0;
  balanceMm = 0;
  drawnS = 0;
  /** Filament that is fed either way while the nozzle stands. */
  standingMm = 0;
  /** Hashes of what is waited for, shown and said, in their order. */
  waits = 0;
  shows = 0;
  says = 0;

  /** As it is when a bead ends. */
  begin(): void {
    this.moves = this.lengthMm = this.travelS = this.drawnMm = this.balanceMm = this.drawnS = this.standingMm = 0;
    this.waits = this.shows = this.says = 0;
    this.lowestMm = Infinity;
    this.highestMm = -Infinity;
  }

  copy(from: Way): void {
    this.moves = from.moves;
    this.lengthMm = from.lengthMm;
    this.lowestMm = from.lowestMm;
    this.highestMm = from.highestMm;
    this.travelS = from.travelS;
    this.drawnMm = from.drawnMm;
    this.balanceMm = from.balanceMm;
    this.drawnS = from.drawnS;
    this.standingMm = from.standingMm;
    this.waits = from.waits;
    this.shows = from.shows;
    this.says = from.says;
  }
}

/** One bead. The walk reuses one object for all of them: copy what must last. */
export class Bead {
  /** Its row in the move table. */
  move = -1;
  /** From 0. */
  line = -1;
  /** Layer from 0; -1 before the first and behind the last. */
  layer = -1;
  fromX = 0;
  fromY = 0;
  fromZ = 0;
  x = 0;
  y = 0;
  z = 0;
  filamentMm = 0;
  feedMmS = 0;
  tool = 0;
  /** What is set, by slot (`slotOf`); NaN where nobody has said it. */
  readonly set = new Float64Array(SLOTS).fill(NaN);
  /** The line (from 0) on which it was said last; -1 where nobody has. */
  readonly saidAt = new Int32Array(SLOTS).fill(-1);
  readonly way = new Way();
  /** Bits of fields (`bitOf`) of which nothing is asked here. */
  open = 0;

  /** @param slots those that are in use */
  copy(from: Bead, slots: readonly number[]): void {
    this.move = from.move;
    this.line = from.line;
    this.layer = from.layer;
    this.fromX = from.fromX;
    this.fromY = from.fromY;
    this.fromZ = from.fromZ;
    this.x = from.x;
    this.y = from.y;
    this.z = from.z;
    this.filamentMm = from.filamentMm;
    this.feedMmS = from.feedMmS;
    this.tool = from.tool;
    for (const slot of slots) {
      this.set[slot] = from.set[slot];
      this.saidAt[slot] = from.saidAt[slot];
    }
    this.way.copy(from.way);
    this.open = from.open;
  }
}
