/** Windows of a changed program: where its lines stand in the original, and what was there before. */
import { SpliceCursor, spliceAt, SpliceSet } from "./packed";
import { Splice } from "./splice";

/** Bytes of the program, as often as they are asked for. */
type Chunks = () => Iterable<Uint8Array>;

const decoder = new TextDecoder();

/** Where a window of lines is looked for: at the beginning of a chunk, and the number (from 0) of the line that chunk begins in. */
export interface WindowStart {
  startByte: number;
  firstLine: number;
}

/** The last chunk of the original that begins before line `from` of the changed program. */
export function windowStart(
  counts: readonly { startByte: number; lineEnds: number }[],
  set: SpliceSet,
  from: number,
): WindowStart {
  const lines = new LinesBefore(set);
  // Lines of the original before each chunk. Behind one whose line ends are not known, lines are counted as they are read.
  const own: number[] = [0];
  for (let i = 0; i + 1 < counts.length && counts[i].lineEnds > 0; i++) own.push(own[i] + counts[i].lineEnds);
  const lineOf = (chunk: number) => own[chunk] + lines.longerBy(counts[chunk].startByte);
  let low = 0;
  let high = Math.min(own.length, counts.length) - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (lineOf(middle) < from) low = middle;
    else high = middle - 1;
  }
  return low <= 0 ? { startByte: 0, firstLine: 0 } : { startByte: counts[low].startByte, firstLine: lineOf(low) };
}

/** By how many lines a set makes a program longer before some place; asked for one place it reads one block. */
class LinesBefore {
  /** By block: what those before it come to. */
  private readonly sums: number[] = [0];

  constructor(private readonly set: SpliceSet) {
    for (const { longerBy } of set.blocks) this.sums.push(this.sums[this.sums.length - 1] + longerBy);
  }

  /** @param byte a line that goes and reaches over it counts as a whole: what is copied from there on begins behind that */
  longerBy(byte: number): number {
    const { blocks } = this.set;
    let block = 0;
    for (let high = blocks.length; block < high;) {
      const middle = (block + high) >> 1;
      if (blocks[middle].atByte < byte) block = middle + 1;
      else high = middle;
    }
    if (block === 0) return 0;
    // Those of the last block that begins before it are counted one by one.
    let longerBy = this.sums[block - 1];
    const splice = new SpliceCursor({ count: blocks[block - 1].count, blocks: [blocks[block - 1]] });
    while (splice.next() && splice.atByte < byte) {
      longerBy += splice.linesPut - splice.removeLines;
      if (splice.atByte + splice.removeBytes > byte) longerBy += splice.removeLines;
    }
    return longerBy;
  }
}

/** A stretch of the changed program that stands for something else: its lines from `line` (from 0) on, and what stood there. */
export interface WindowChange {
  line: number;
  lines: number;
  before: string[];
}

/** What is changed within a window of the changed program. @param chunks the original's bytes from one of them on */
export function changesWithin(
  chunks: (from: number) => Iterable<Uint8Array>,
  set: SpliceSet,
  from: number,
  count: number,
): WindowChange[] {
  let longerBy = 0;
  const within: { splice: Splice; line: number; lines: number }[] = [];
  const cursor = new SpliceCursor(set);
  for (let blocks = set.blocks, i = 0; i + 1 < blocks.length; i++) {
    // The next block begins before the window, too: nothing of this one is in it.
    if (blocks[i + 1].line + longerBy + blocks[i].longerBy >= from) break;
    longerBy += blocks[i].longerBy;
    cursor.skipBlock();
  }
  while (cursor.next()) {
    const line = cursor.line + longerBy;
    const lines = cursor.linesPut;
    if (line >= from + count) break;
    if (line + Math.max(1, lines) > from) within.push({ splice: spliceAt(cursor), line, lines });
    longerBy += lines - cursor.removeLines;
  }
  if (within.length === 0) return [];
  const first = within[0].splice.atByte;
  const moved = within.map(({ splice }) => ({ ...splice, atByte: splice.atByte - first }));
  const old = textsAt(() => chunks(first), moved);
  return within.map(({ line, lines }, i) => ({ line, lines, before: splitLines(old[i]) }));
}

export interface ChangedLine {
  /** From 0, in the program before the edit. */
  line: number;
  layer: number | null;
  before: string[];
  after: string[];
}

/** What the splices from `from` on change, each with the lines that stood there. */
export function changedLines(chunks: Chunks, set: SpliceSet, from: number, count: number): ChangedLine[] {
  const wanted = splicesFrom(set, from, count);
  const old = textsAt(chunks, wanted);
  return wanted.map(({ line, layer, insert }, i) => ({
    line,
    layer: layer ?? null,
    before: splitLines(old[i]),
    after: splitLines(insert),
  }));
}

/** Some splices of a set, counted from 0. */
function splicesFrom(set: SpliceSet, from: number, count: number): Splice[] {
  const cursor = new SpliceCursor(set);
  let at = 0;
  for (let block = cursor.blockAhead; block && at + block.count <= from; block = cursor.blockAhead) {
    at += block.count;
    cursor.skipBlock();
  }
  const splices: Splice[] = [];
  for (; at < from + count && cursor.next(); at++) if (at >= from) splices.push(spliceAt(cursor));
  return splices;
}

/** The text that each splice takes out, in one pass. */
function textsAt(chunks: Chunks, splices: readonly Splice[]): string[] {
  const texts = splices.map(() => "");
  let position = 0;
  let next = 0;
  for (const chunk of chunks()) {
    const end = position + chunk.length;
    for (let i = next; i < splices.length && splices[i].atByte < end; i++) {
      const { atByte, removeBytes } = splices[i];
      const [low, high] = [Math.max(atByte, position), Math.min(atByte + removeBytes, end)];
      if (high > low) texts[i] += decoder.decode(chunk.subarray(low - position, high - position));
      if (atByte + removeBytes <= end && i === next) next++;
    }
    position = end;
    if (next >= splices.length) break;
  }
  return texts;
}

const splitLines = (text: string) => (text === "" ? [] : text.replace(/(\r\n|\r|\n)$/, "").split(/\r\n|\r|\n/));
