/**
 * Kinds of line as a file's own comments say them, found by pattern: whatever program wrote them, they use the trade's words. A comment
 * on a line of its own holds until the next; one behind a move is for that move alone.
 */
import { byteColumn, uint32Column } from "./columns";
import { MoveKind } from "./moves";
import type { Line } from "./scan";

const LONGEST_BYTES = 60;
/** So many different comments are told apart; a file with more of them does not speak of kinds. */
const MOST_COMMENTS = 4000;

const is = (words: string, ...any: string[]) => any.some((word) => words.includes(word));

/** The kind a comment speaks of; null if it speaks of none. Trade words, common practice, no source. */
export function kindOfWords(comment: string): number | null {
  const words = comment.toLowerCase();
  // Figures and settings are no names of lines.
  if (
    /[=%]|\d\.\d/.test(words) ||
    is(words, "speed", "density", "overlap", "count", "temperature", "per ", "width", "flow")
  ) {
    return null;
  }
  if (is(words, "travel", "retract")) return null;
  if (is(words, "bridge", "bridging")) return MoveKind.bridge;
  if (is(words, "skirt", "brim")) return MoveKind.skirt;
  if (is(words, "prime", "purge", "wipe tower")) return MoveKind.prime;
  if (is(words, "support", "raft")) return MoveKind.support;
  const isWall = is(words, "wall", "perimeter", "contour", "shell", "outline", "loop");
  if (isWall && is(words, "outer", "external", "outside", "overhang", "outline", "contour")) return MoveKind.outerWall;
  if (isWall) return MoveKind.innerWall;
  if (is(words, "solid", "skin", "ironing", "top surface", "bottom surface", "top fill", "bottom fill")) {
    return MoveKind.solid;
  }
  if (is(words, "fill", "sparse")) return MoveKind.sparse;
  return null;
}

/** Comments that speak of kinds, in program order. */
export interface SaidKinds {
  count: number;
  /** It stands before this move. */
  move: Uint32Array;
  kind: Uint8Array;
  /** For that move alone. */
  once: Uint8Array;
}

/** Hears the comments of a program while it is read. */
export class SaidKindFinder {
  private readonly moves = uint32Column();
  private readonly kinds = byteColumn();
  private readonly once = byteColumn();
  private readonly known = new Map<number, number>();

  /** @param move the next move @param isBehind the comment stands behind a move, on its line */
  see(line: Line, move: number, isBehind: boolean): void {
    const { bytes, commentFrom, commentTo } = line;
    if (commentTo - commentFrom > LONGEST_BYTES) return;
    let hash = 2166136261;
    for (let at = commentFrom; at < commentTo; at++) hash = Math.imul(hash ^ bytes[at], 16777619);
    let kind = this.known.get(hash);
    if (kind === undefined) {
      if (this.known.size >= MOST_COMMENTS) return;
      kind = kindOfWords(line.comment()) ?? 0;
      this.known.set(hash, kind);
    }
    if (kind === 0) return;
    this.moves.push(move);
    this.kinds.push(kind);
    this.once.push(isBehind ? 1 : 0);
  }

  take(): SaidKinds {
    return { count: this.moves.length, move: this.moves.take(), kind: this.kinds.take(), once: this.once.take() };
  }
}
