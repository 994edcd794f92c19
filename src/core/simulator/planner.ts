/** Moves on their way: a short queue with look-ahead, as a printer's own motion has it. */
import { deviationSpeedMmS } from "../motion/cornering";
import { trapezoidSeconds } from "../motion/trapezoid";

export interface Motion {
  /** Highest acceleration of this move, mm/s². */
  accelerationMmS2: number;
  /** Corner by jerk (mm/s) or by junction deviation (mm). */
  jerkMmS?: number;
  deviationMm?: number;
}

export interface Block {
  dx: number;
  dy: number;
  dz: number;
  /** Filament, mm. */
  de: number;
  /** The first move after a mark was made on the filament. */
  marks: boolean;
  lengthMm: number;
  cruiseMmS: number;
  accelerationMmS2: number;
  entryLimitMmS: number;
  entryMmS: number;
  /** Set when it starts. */
  seconds: number;
}

/** Moves a printer holds before it lets the next line wait. Common practice, no source. */
export const PLANNED_MOVES = 16;

/** From a standstill and to one, mm/s. */
const REST_MM_S = 0.5;

export class Planner {
  readonly blocks: Block[] = [];
  /** How far the first block has come, s; NaN while it has not started. */
  private intoS = NaN;

  get full(): boolean {
    return this.blocks.length >= PLANNED_MOVES;
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

  /** Adds a move; its cruise speed must be reachable by every axis. */
  add(move: Pick<Block, "dx" | "dy" | "dz" | "de" | "marks" | "cruiseMmS">, motion: Motion): void {
    const path = Math.hypot(move.dx, move.dy, move.dz);
    const lengthMm = path > 1e-9 ? path : Math.abs(move.de);
    if (lengthMm < 1e-9) return;
    const block: Block = {
      ...move,
      lengthMm,
      accelerationMmS2: motion.accelerationMmS2,
      entryLimitMmS: this.corner(move, lengthMm, motion),
      entryMmS: 0,
      seconds: 0,
    };
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

  /** Share of the first move that is done, 0–1. */
  get shareDone(): number {
    if (this.blocks.length === 0 || Number.isNaN(this.intoS)) return 0;
    return Math.min(1, this.intoS / Math.max(1e-9, this.blocks[0].seconds));
  }

  /** Forgets everything at once. */
  clear(): void {
    this.blocks.length = 0;
    this.intoS = NaN;
  }

  private corner(move: Pick<Block, "dx" | "dy" | "dz" | "de" | "cruiseMmS">, lengthMm: number, motion: Motion): number {
    const before = this.blocks.at(-1);
    const path = Math.hypot(move.dx, move.dy, move.dz);
    if (!before || path < 1e-9 || Math.hypot(before.dx, before.dy, before.dz) < 1e-9) return REST_MM_S;
    const slower = Math.min(move.cruiseMmS, before.cruiseMmS);
    const ux = move.dx / lengthMm;
    const uy = move.dy / lengthMm;
    const uz = move.dz / lengthMm;
    const vx = before.dx / before.lengthMm;
    const vy = before.dy / before.lengthMm;
    const vz = before.dz / before.lengthMm;
    if (motion.deviationMm !== undefined) {
      const cosine = ux * vx + uy * vy + uz * vz;
      return Math.min(slower, deviationSpeedMmS(cosine, motion.accelerationMmS2, motion.deviationMm));
    }
    const jump = Math.max(Math.abs(ux - vx), Math.abs(uy - vy), Math.abs(uz - vz));
    return Math.min(slower, jump > 1e-9 ? (motion.jerkMmS ?? 8) / jump : slower);
  }

  /** No move may enter faster than it can leave, nor leave faster than the next may be entered. */
  private lookAhead(): void {
    const { blocks } = this;
    const first = Number.isNaN(this.intoS) ? 0 : 1;
    let next = REST_MM_S;
    for (let i = blocks.length - 1; i >= first; i--) {
      const { lengthMm, accelerationMmS2, entryLimitMmS, cruiseMmS } = blocks[i];
      blocks[i].entryMmS = Math.min(entryLimitMmS, cruiseMmS, Math.sqrt(next * next + 2 * accelerationMmS2 * lengthMm));
      next = blocks[i].entryMmS;
    }
    for (let i = first; i + 1 < blocks.length; i++) {
      const { entryMmS, accelerationMmS2, lengthMm } = blocks[i];
      const reachable = Math.sqrt(entryMmS * entryMmS + 2 * accelerationMmS2 * lengthMm);
      blocks[i + 1].entryMmS = Math.min(blocks[i + 1].entryMmS, reachable);
    }
  }

  private start(): void {
    const [block, next] = this.blocks;
    this.intoS = 0;
    const exit = next ? next.entryMmS : Math.min(REST_MM_S, block.cruiseMmS);
    block.seconds = trapezoidSeconds(
      block.lengthMm,
      Math.min(block.entryMmS, block.cruiseMmS),
      block.cruiseMmS,
      Math.min(exit, block.cruiseMmS),
      block.accelerationMmS2,
    );
  }
}
