/**
 * The lines of a program in which its own motion can be changed: those that draw the filament back and give it back, or those that
 * travel, and what must be known of the lines between them so that nothing else moves.
 */
import type { MachineState } from "../machine/state";
import { LineWords } from "./line-words";
import { MoveKind } from "./moves";
import { LineObserver } from "./read";
import { Line } from "./scan";

/** More lines than this are not kept: a file that has them cannot have them rewritten here. */
export const MOST_MOVING_LINES = 400_000;

/** `shifts` has an E word but feeds nothing; `names` is a G92 of E; `tool` chooses one; `heir` takes on the feed of a kept line before it. */
export type MovingLineKind =
  "draw" | "restore" | "wipe" | "restoring-travel" | "travel" | "shifts" | "names" | "tool" | "heir";

export interface MovingLine {
  kind: MovingLineKind;
  /** From 0. */
  line: number;
  startByte: number;
  endByte: number;
  text: string;
  /** Filament, mm; negative when drawn back. */
  fedMm: number;
  /** E counts from a fixed zero (M82). */
  absolute: boolean;
  /** Millimetres in one unit of the program. */
  unitMm: number;
  tool: number;
  /** It has a feed of its own. */
  hasFeed: boolean;
  /** Feed before and behind it, mm/min of the machine. */
  feedBeforeMmMin: number;
  feedMmMin: number;
  /** A line with a feed stood between this one and the one kept before. */
  feedSince: boolean;
  /** Material was laid between this one and the one kept before. */
  laidSince: boolean;
  /** It names every axis at once, so that E alone cannot be named otherwise. */
  namesAll: boolean;
  /** Layer it belongs to, from 0; -1 before the first. */
  layer: number;
}

const [X, Y, Z, E, F] = [88, 89, 90, 69, 70];

/** Collects them while a program is read; give it to the reader as its observer. */
export class MovingLineKeeper implements LineObserver {
  readonly lines: MovingLine[] = [];
  /** There were more than are kept. */
  tooMany = false;
  private laidSince = false;
  private feedSince = false;
  private awaitsHeir = false;

  /** @param keeps lines that move the filament alone, or lines that travel */
  constructor(private readonly keeps: "filament" | "travel") {}

  move(line: Line, kind: number, fedMm: number, feedBeforeMmMin: number, state: Readonly<MachineState>): void {
    const hasFeed = line.has(F);
    const found = this.kindOf(line, kind, fedMm);
    if (found) this.keep(found, line, fedMm, feedBeforeMmMin, state);
    else if (this.awaitsHeir && !hasFeed) this.keep("heir", line, fedMm, feedBeforeMmMin, state);
    else if (hasFeed) {
      this.feedSince = true;
      this.awaitsHeir = false;
    }
    if (kind === MoveKind.print) this.laidSince = true;
  }

  command(line: Line, code: string, words: LineWords, state: Readonly<MachineState>): void {
    if (this.keeps !== "filament") return;
    if (code.startsWith("T") && code.length <= 3) this.keep("tool", line, 0, state.feedMmMin, state);
    else if (code === "G92" && (words.count === 0 || words.has("E"))) {
      this.keep("names", line, 0, state.feedMmMin, state);
      this.lines[this.lines.length - 1].namesAll = words.count === 0;
    }
  }

  private kindOf(line: Line, kind: number, fedMm: number): MovingLineKind | null {
    if (this.keeps === "travel") {
      const goes = line.has(X) || line.has(Y) || line.has(Z);
      return kind === MoveKind.travel && goes && Math.abs(fedMm) < 1e-6 ? "travel" : null;
    }
    if (kind === MoveKind.retract) return "draw";
    if (kind === MoveKind.restore) return "restore";
    if (kind !== MoveKind.travel) return null;
    if (fedMm < -1e-4) return "wipe";
    if (fedMm > 1e-4) return "restoring-travel";
    return line.has(E) ? "shifts" : null;
  }

  private keep(
    kind: MovingLineKind,
    line: Line,
    fedMm: number,
    feedBeforeMmMin: number,
    state: Readonly<MachineState>,
  ): void {
    if (this.lines.length >= MOST_MOVING_LINES) {
      this.tooMany = true;
      return;
    }
    const hasFeed = line.has(F);
    this.lines.push({
      kind,
      line: line.number,
      startByte: line.startByte,
      endByte: line.endByte,
      text: line.text(),
      fedMm,
      absolute: !state.relativeE,
      unitMm: state.unitMm,
      tool: state.tool,
      hasFeed,
      feedBeforeMmMin,
      feedMmMin: state.feedMmMin,
      feedSince: this.feedSince,
      laidSince: this.laidSince,
      namesAll: false,
      layer: -1,
    });
    this.feedSince = this.laidSince = false;
    this.awaitsHeir = kind === "heir" ? false : kind !== "tool" && kind !== "names" ? true : this.awaitsHeir;
  }
}

/** New figures for words of a line, in the program's own units. */
export interface LineChange {
  line: MovingLine;
  e?: number;
  feed?: number;
}

/**
 * Lines behind a changed feed that have none of their own and would take it on: they get the feed they had. Changes to feeds must be
 * complete; what is given back are those, and the lines that are put right.
 */
export function withFeedsKept(
  lines: readonly MovingLine[],
  changes: ReadonlyMap<MovingLine, LineChange>,
): LineChange[] {
  const all = new Map(changes);
  let feed = NaN;
  for (const line of lines) {
    const before = line.feedSince || Number.isNaN(feed) ? line.feedBeforeMmMin : feed;
    const change = all.get(line);
    if (change?.feed !== undefined) {
      feed = change.feed * line.unitMm;
      continue;
    }
    if (line.kind === "tool" || line.kind === "names" || line.hasFeed) {
      feed = line.hasFeed ? line.feedMmMin : before;
      continue;
    }
    feed = line.feedMmMin;
    if (Math.abs(before - line.feedBeforeMmMin) > 1e-6) {
      all.set(line, { ...change, line, feed: line.feedBeforeMmMin / line.unitMm });
    }
  }
  return [...all.values()];
}
