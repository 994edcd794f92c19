/**
 * Splices packed: a change of every line of a large program takes little more than the text it puts in. Each stands as figures relative
 * to the one before it, seven bits a byte (the variable-length quantity of the Standard MIDI File, the lowest group first), then its text.
 * They are kept in blocks that can be read by themselves, so that one place of a program is looked at without what stands before it.
 */
import { ByteSplice, CARRIAGE_RETURN, LINE_FEED, linesIn, Splice } from "./splice";

/** Some splices that follow one another, and where they stand. */
export interface SpliceBlock {
  readonly count: number;
  /** Where the first one stands in the original, and the last byte that one of them reaches. */
  readonly atByte: number;
  readonly untilByte: number;
  /** Line of the original the first one stands at, from 0. */
  readonly line: number;
  /** By how many lines they make the program longer. */
  readonly longerBy: number;
  /** The splices themselves; read when they are asked for. */
  bytes(): Uint8Array;
}

/** Changes of one program, sorted and never one over another; `spliceSet`, `SpliceGatherer` and `compose` make them. */
export interface SpliceSet {
  readonly count: number;
  readonly blocks: readonly SpliceBlock[];
}

export const noSplices: SpliceSet = { count: 0, blocks: [] };

/** A block holds about so many bytes: few enough to be read for a look at one line. */
const BLOCK_BYTES = 1 << 16;
/** The figures of one splice take no more than this. */
const FIGURES_BYTES = 64;

/** What of a splice differs from what is usual. */
const REMOVES = 1;
const INSERTS = 2;
const COUNTS_LINES = 4;
const OTHER_LAYER = 8;
const OTHER_EDIT = 16;

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const NOTHING = new Uint8Array(0);

/** A splice whose text is letters or bytes. */
export interface AnySplice extends Omit<Splice, "insert"> {
  insert: string | Uint8Array;
}

/** Packs splices that come in order. */
export class SplicePacker {
  private readonly blocks: SpliceBlock[] = [];
  private bytes = new Uint8Array(BLOCK_BYTES + FIGURES_BYTES);
  private used = 0;
  private count = 0;
  private first = { atByte: 0, line: 0 };
  private readonly scratch = new Uint8Array(512);
  private inBlock = 0;
  private untilByte = 0;
  private longerBy = 0;
  private readonly before = { atByte: 0, line: 0, layer: -1, by: "" };

  add(splice: AnySplice): void {
    const { before } = this;
    const { atByte, removeBytes, removeLines, line, by } = splice;
    const layer = splice.layer ?? -1;
    const text = typeof splice.insert === "string" ? this.bytesOf(splice.insert) : splice.insert;
    if (this.inBlock === 0) {
      this.first = { atByte, line };
      before.atByte = atByte;
      before.line = line;
      before.layer = -1;
      before.by = "";
    }
    const name = by === before.by ? NOTHING : encoder.encode(by);
    this.makeRoomFor(FIGURES_BYTES + text.length + name.length);
    const countsLines = removeLines !== (removeBytes > 0 ? 1 : 0);
    this.put(
      (removeBytes > 0 ? REMOVES : 0) |
        (text.length > 0 ? INSERTS : 0) |
        (countsLines ? COUNTS_LINES : 0) |
        (layer === before.layer ? 0 : OTHER_LAYER) |
        (name.length > 0 ? OTHER_EDIT : 0),
    );
    this.put(atByte - before.atByte);
    this.putSigned(line - before.line);
    if (removeBytes > 0) this.put(removeBytes);
    if (countsLines) this.put(removeLines);
    if (layer !== before.layer) this.putSigned(layer - before.layer);
    if (name.length > 0) this.putText(name);
    if (text.length > 0) this.longerBy += this.putText(text);
    before.atByte = atByte;
    before.line = line;
    before.layer = layer;
    before.by = by;
    if (atByte + removeBytes > this.untilByte) this.untilByte = atByte + removeBytes;
    this.longerBy -= removeLines;
    this.count++;
    this.inBlock++;
    if (this.used >= BLOCK_BYTES) this.seal();
  }

  finish(): SpliceSet {
    this.seal();
    return { count: this.count, blocks: this.blocks };
  }

  private seal(): void {
    if (this.inBlock === 0) return;
    const bytes = this.bytes.slice(0, this.used);
    const { inBlock: count, untilByte, longerBy } = this;
    this.blocks.push({ ...this.first, count, untilByte, longerBy, bytes: () => bytes });
    this.used = this.inBlock = this.untilByte = this.longerBy = 0;
  }

  /** The bytes of a text, good until the next is asked for. Most lines are plain letters, and an encoder takes longer to be asked. */
  private bytesOf(text: string): Uint8Array {
    if (text.length > this.scratch.length) return encoder.encode(text);
    for (let i = 0; i < text.length; i++) {
      const letter = text.charCodeAt(i);
      if (letter > 127) return encoder.encode(text);
      this.scratch[i] = letter;
    }
    return this.scratch.subarray(0, text.length);
  }

  private makeRoomFor(bytes: number): void {
    if (this.used + bytes <= this.bytes.length) return;
    const larger = new Uint8Array(this.used + bytes);
    larger.set(this.bytes.subarray(0, this.used));
    this.bytes = larger;
  }

  private put(figure: number): void {
    let left = figure;
    while (left >= 128) {
      this.bytes[this.used++] = (left % 128) | 128;
      left = Math.floor(left / 128);
    }
    this.bytes[this.used++] = left;
  }

  private putSigned(figure: number): void {
    this.put(figure < 0 ? -2 * figure - 1 : 2 * figure);
  }

  /** Gives how many lines end in it. Most texts are short: they are copied byte by byte. */
  private putText(text: Uint8Array): number {
    this.put(text.length);
    const { bytes, used } = this;
    this.used += text.length;
    if (text.length > 64) {
      bytes.set(text, used);
      return linesIn(text);
    }
    let lines = 0;
    for (let i = 0; i < text.length; i++) {
      const byte = text[i];
      bytes[used + i] = byte;
      if (byte === LINE_FEED || (byte === CARRIAGE_RETURN && text[i + 1] !== LINE_FEED)) lines++;
    }
    return lines;
  }
}

/** Goes through the splices of a set, one after the other, without making an object of each. */
export class SpliceCursor implements ByteSplice {
  atByte = 0;
  removeBytes = 0;
  removeLines = 0;
  line = 0;
  layer = -1;
  by = "";
  /** The block whose splices come next, and the first one that is not yet passed as a whole. */
  private nextBlock = 0;
  private bytes: Uint8Array = new Uint8Array(0);
  private at = 0;
  private leftInBlock = 0;
  private textFrom = 0;
  private textTo = 0;

  constructor(private readonly set: SpliceSet) {}

  /** The text put in; it shares the block's memory. */
  get insert(): Uint8Array {
    return this.bytes.subarray(this.textFrom, this.textTo);
  }

  /** How many lines end in it. */
  get linesPut(): number {
    return linesIn(this.bytes, this.textFrom, this.textTo);
  }

  get hasText(): boolean {
    return this.textTo > this.textFrom;
  }

  /** The block that would be begun next; null inside a block, and behind the last one. */
  get blockAhead(): SpliceBlock | null {
    return this.leftInBlock === 0 ? (this.set.blocks[this.nextBlock] ?? null) : null;
  }

  /** Passes that block without reading it. */
  skipBlock(): void {
    this.nextBlock++;
  }

  /** Goes to the next splice; false behind the last. */
  next(): boolean {
    if (this.leftInBlock === 0 && !this.begin()) return false;
    this.leftInBlock--;
    const flags = this.figure();
    this.atByte += this.figure();
    this.line += this.signed();
    this.removeBytes = flags & REMOVES ? this.figure() : 0;
    this.removeLines = flags & COUNTS_LINES ? this.figure() : flags & REMOVES ? 1 : 0;
    if (flags & OTHER_LAYER) this.layer += this.signed();
    if (flags & OTHER_EDIT) {
      const length = this.figure();
      this.by = decoder.decode(this.bytes.subarray(this.at, this.at + length));
      this.at += length;
    }
    const length = flags & INSERTS ? this.figure() : 0;
    this.textFrom = this.at;
    this.textTo = this.at += length;
    return true;
  }

  private begin(): boolean {
    const block = this.set.blocks[this.nextBlock++];
    if (!block) return false;
    this.bytes = block.bytes();
    this.at = 0;
    this.leftInBlock = block.count;
    this.atByte = block.atByte;
    this.line = block.line;
    this.layer = -1;
    this.by = "";
    return true;
  }

  private figure(): number {
    let byte = this.bytes[this.at++];
    if (byte < 128) return byte;
    let figure = byte - 128;
    let factor = 128;
    do {
      byte = this.bytes[this.at++];
      figure += (byte & 127) * factor;
      factor *= 128;
    } while (byte >= 128);
    return figure;
  }

  private signed(): number {
    const figure = this.figure();
    return figure % 2 === 1 ? -(figure + 1) / 2 : figure / 2;
  }
}

/** The splice a cursor stands at, as an object of its own. */
export function spliceAt(cursor: SpliceCursor): Splice {
  const { atByte, removeBytes, removeLines, line, layer, by } = cursor;
  const insert = cursor.hasText ? decoder.decode(cursor.insert) : "";
  return { atByte, removeBytes, removeLines, insert, line, ...(layer < 0 ? {} : { layer }), by };
}

/** All splices of a set, each as an object of its own: for who looks at a few. */
export function* splicesIn(set: SpliceSet): Generator<Splice> {
  const cursor = new SpliceCursor(set);
  while (cursor.next()) yield spliceAt(cursor);
}

/** What a set takes, bytes. */
export const packedBytes = ({ blocks }: SpliceSet): number =>
  blocks.reduce((sum, block) => sum + block.bytes().length, 0);

/** Whether two sets hold the same splices. */
export function sameSplices(one: SpliceSet, other: SpliceSet): boolean {
  if (one.count !== other.count) return false;
  const [a, b] = [new SpliceCursor(one), new SpliceCursor(other)];
  while (a.next() && b.next()) {
    const isSame =
      a.atByte === b.atByte &&
      a.removeBytes === b.removeBytes &&
      a.line === b.line &&
      a.layer === b.layer &&
      a.by === b.by &&
      isEqual(a.insert, b.insert);
    if (!isSame) return false;
  }
  return true;
}

function isEqual(a: Uint8Array, b: Uint8Array): boolean {
  return a.length === b.length && a.every((byte, i) => byte === b[i]);
}
