/** Lines of a program that neither move nor set anything: what they say is kept as a hash, so that two programs can be compared. */
import type { Line } from "./scan";
import { uint32Column } from "./columns";

/** `count` lines in program order. */
export interface SayingTable {
  count: number;
  /** The line stands before this move. */
  move: Uint32Array;
  /** From 0. */
  line: Uint32Array;
  /** Of the line without blanks, comment, number and checksum (FNV-1a, 32 bits). */
  hash: Uint32Array;
  /** What the line is for: 1 shows something on the printer's screen, 0 anything else. */
  shows: Uint8Array;
}

/** Commands that are for the eye alone; what they say changes no print. */
const forTheEye = new Set(["M73", "M117", "M118"]);
/** Commands whose whole effect is seen in where moves go and what they feed. */
const seenInMoves = new Set(["G10", "G11", "G17", "G18", "G19", "G20", "G21", "G90", "G91", "G92", "M82", "M83"]);

/** Gathers the sayings of a program as it is read. */
export class SayingTableBuilder {
  private readonly moves = uint32Column();
  private readonly lines = uint32Column();
  private readonly hashes = uint32Column();
  private readonly shown = uint32Column();

  constructor(private readonly most: number) {}

  /** @param move how many moves stand before it */
  see(line: Line, command: string, move: number): void {
    if (seenInMoves.has(command) || this.moves.length >= this.most) return;
    this.moves.push(move);
    this.lines.push(line.number);
    this.hashes.push(hashOf(line));
    this.shown.push(forTheEye.has(command) ? 1 : 0);
  }

  /** The finished table. The builder is empty afterwards. */
  take(): SayingTable {
    return {
      count: this.moves.length,
      move: this.moves.take(),
      line: this.lines.take(),
      hash: this.hashes.take(),
      shows: Uint8Array.from(this.shown.take()),
    };
  }
}

/** FNV-1a (Fowler, Noll, Vo; draft-eastlake-fnv) over what a line says. */
function hashOf(line: Line): number {
  const { bytes, from, commentFrom, wordCount, starts, named } = line;
  // The line's own number and checksum are no part of what it says.
  const first = !named && wordCount > 0 ? starts[0] : from;
  const last = named || line.textFrom >= 0 ? (commentFrom < 0 ? line.to : commentFrom - 1) : line.wordsEnd();
  let hash = 0x811c9dc5;
  for (let at = first; at < last; at++) {
    if (bytes[at] > 32) hash = Math.imul(hash ^ bytes[at], 0x01000193);
  }
  return hash >>> 0;
}
