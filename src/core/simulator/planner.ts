/** Moves on their way: a short queue with look-ahead, as a printer's own motion has it. Its physics is that of `motion/model`. */
import { AxisFigures, CornerLimits, cornerMmS, cruiseMmS, Direction, restMmS, withinAxes } from "../motion/model";
import { trapezoidSeconds } from "../motion/trapezoid";

/** What limits a move as it is planned. */
export interface Motion {
  /** Along the move, before what single axes allow, mm/s². */
  accelerationMmS2: number;
  axisAccelerationMmS2: AxisFigures;
  highestFeedMmS: AxisFigures;
  jerkMmS: number;
  jerkZMmS: number;
  jerkEMmS: number;
  /** 0 where corners go by jerk. */
  deviationMm: number;
}

/** A move of the axes and the extruder, mm. */
export interface Step {
  dx: number;
  dy: number;
  dz: number;
  /** Filament. */
  de: number;
  /** The first move after a mark was made on the filament. */
  marks: boolean;
}

export interface Block extends Step {
  lengthMm: number;
  cruiseMmS: number;
  accelerationMmS2: number;
  /** Speed at a standstill before or behind it. */
  restMmS: number;
  entryLimitMmS: number;
  entryMmS: number;
  /** Set when it starts. */
  seconds: number;
}

export class Planner {
  readonly blocks: Block[] = [];
  /** How far the first block has come, s; NaN while it has not started. */
  private intoS = NaN;

  /** @param most moves it holds before the next line has to wait */
  constructor(private readonly most: number) {}

  get full(): boolean {
    return this.blocks.length >= this.most;
  }

  get empty(): boolean {
    return this.blocks.length === 0;
  }

  /** Seconds until the first move is done; Infinity if there is none. */
  get untilDoneS(): number {
    if (this.blocks.length === 0) return Infinity;
    if (Number.isNaN(this.intoS)) this.start();
    return Math.max(0, this.blocks[0].seconds - this.intoS);
  }

  /** Adds a move of `feedMmS`; nothing for one that goes nowhere. */
  add(step: Step, feedMmS: number, motion: Motion): void {
    const path = Math.hypot(step.dx, step.dy, step.dz);
    const block = path > 1e-9 ? pathBlock(step, path, feedMmS, motion) : filamentBlock(step, feedMmS, motion);
    if (!block) return;
    const before = this.blocks.at(-1);
    if (before && path > 1e-9 && isPath(before)) block.entryLimitMmS = cornerBetween(before, block, motion);
    this.blocks.push(block);
    this.lookAhead();
  }

  /** Lets at most `seconds` pass within the first move; returns it if that ended it. */
  advance(seconds: number): Block | null {
    if (this.blocks.length === 0) return null;
    if (Number.isNaN(this.intoS)) this.start();
    this.intoS += seconds;
    if (this.intoS < this.blocks[0].seconds - 1e-9) return null;
    this.intoS = NaN;
    return this.blocks.shift()!;
  }

  /** Forgets everything at once. */
  clear(): void {
    this.blocks.length = 0;
    this.intoS = NaN;
  }

  /** No move may enter faster than it can leave, nor leave faster than the next may be entered; at the end it must be able to stand. */
  private lookAhead(): void {
    const { blocks } = this;
    // What is under way leaves as it was planned to, so the next one's entry stands too.
    const first = Number.isNaN(this.intoS) ? 1 : 2;
    let next = blocks[blocks.length - 1].restMmS;
    for (let i = blocks.length - 1; i >= first; i--) {
      const { lengthMm, accelerationMmS2, entryLimitMmS } = blocks[i];
      blocks[i].entryMmS = Math.min(entryLimitMmS, Math.sqrt(next * next + 2 * accelerationMmS2 * lengthMm));
      // Where the path stops, the move before it ends at a standstill of its own.
      next =
        isPath(blocks[i]) === isPath(blocks[i - 1]) && isPath(blocks[i]) ? blocks[i].entryMmS : blocks[i - 1].restMmS;
    }
    for (let i = Math.max(0, first - 1); i + 1 < blocks.length; i++) {
      if (!isPath(blocks[i]) || !isPath(blocks[i + 1])) continue;
      const { entryMmS, accelerationMmS2, lengthMm } = blocks[i];
      const reachable = Math.sqrt(entryMmS * entryMmS + 2 * accelerationMmS2 * lengthMm);
      blocks[i + 1].entryMmS = Math.min(blocks[i + 1].entryMmS, reachable);
    }
  }

  private start(): void {
    const [block, next] = this.blocks;
    this.intoS = 0;
    const exit = next && isPath(block) && isPath(next) ? next.entryMmS : block.restMmS;
    block.seconds = trapezoidSeconds(
      block.lengthMm,
      Math.min(block.entryMmS, block.cruiseMmS),
      block.cruiseMmS,
      Math.min(exit, block.cruiseMmS),
      block.accelerationMmS2,
    );
  }
}

const isPath = ({ dx, dy, dz }: Step) => Math.hypot(dx, dy, dz) > 1e-9;

function pathBlock(step: Step, lengthMm: number, feedMmS: number, motion: Motion): Block {
  const along = direction(step, lengthMm);
  const cruise = cruiseMmS(feedMmS, along, motion.highestFeedMmS);
  const rest = restMmS(cruise, along, cornerLimits(motion));
  return {
    ...step,
    lengthMm,
    cruiseMmS: cruise,
    accelerationMmS2: withinAxes(motion.accelerationMmS2, along, motion.axisAccelerationMmS2),
    restMmS: rest,
    entryLimitMmS: rest,
    entryMmS: rest,
    seconds: 0,
  };
}

/** Filament alone: from rest to rest, but for the extruder's own jerk. */
function filamentBlock(step: Step, feedMmS: number, motion: Motion): Block | null {
  const lengthMm = Math.abs(step.de);
  if (lengthMm < 1e-9) return null;
  const cruise = Math.max(0.05, Math.min(feedMmS, motion.highestFeedMmS.e));
  const rest = Math.min(cruise, motion.jerkEMmS / 2);
  return {
    ...step,
    lengthMm,
    cruiseMmS: cruise,
    accelerationMmS2: Math.min(motion.accelerationMmS2, motion.axisAccelerationMmS2.e),
    restMmS: rest,
    entryLimitMmS: rest,
    entryMmS: rest,
    seconds: 0,
  };
}

function direction({ dx, dy, dz, de }: Step, lengthMm: number): Direction {
  return { x: dx / lengthMm, y: dy / lengthMm, z: dz / lengthMm, e: de / lengthMm };
}

const cornerLimits = ({ jerkMmS, jerkZMmS, jerkEMmS, deviationMm }: Motion): CornerLimits => ({
  ...{ jerk: jerkMmS, jerkZ: jerkZMmS, jerkE: jerkEMmS, deviation: deviationMm },
});

function cornerBetween(before: Block, block: Block, motion: Motion): number {
  return cornerMmS(
    Math.min(block.cruiseMmS, before.cruiseMmS),
    block.accelerationMmS2,
    direction(before, before.lengthMm),
    direction(block, block.lengthMm),
    cornerLimits(motion),
  );
}
