/** One change of a program: a cut at a byte offset, text put in there, or both. Everything else stays byte for byte. */

export interface Splice {
  /** Offset in the original. */
  atByte: number;
  /** How many bytes of the original go; 0 for a plain insertion. */
  removeBytes: number;
  /** How many line ends are among them. */
  removeLines: number;
  /** Text to put there; with bytes taken out it stands for the line that was there. */
  insert: string;
  /** Line of the original it stands before, or that goes; from 0. */
  line: number;
  /** Layer it is for, from 0, where that is known. */
  layer?: number;
  /** Which edit it is of, as it is called on screen. */
  by: string;
}

/** The same with its text as bytes, as it is kept. */
export interface ByteSplice extends Omit<Splice, "insert" | "layer"> {
  insert: Uint8Array;
  /** -1 where it is not known. */
  layer: number;
}

export const LINE_FEED = 10;
export const CARRIAGE_RETURN = 13;

/** How many lines end in some text: with CR, LF or both. */
export function linesIn(text: Uint8Array, from = 0, to = text.length): number {
  let count = 0;
  for (let i = from; i < to; i++) {
    const byte = text[i];
    if (byte === LINE_FEED || (byte === CARRIAGE_RETURN && (i + 1 === to || text[i + 1] !== LINE_FEED))) count++;
  }
  return count;
}
