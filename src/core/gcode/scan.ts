/**
 * Bytes → lines → words. No regular expression and no string is made per line: a program of 200 MB is read in seconds.
 *
 * Word syntax after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556), section 3.3: a letter and a number, case and
 * spaces do not count, comments in brackets; `;` comments, `N` numbers and `*` checksums as printers use them
 * (common practice, no source).
 */

import { textCommands } from "../machine/commands";
import { xorChecksum } from "./checksum";

export const MOST_WORDS = 32;

/** A line longer than this is not a program line; it is passed over, and counted. */
export const LONGEST_LINE_BYTES = 64 * 1024;

/** What ends the lines of a program. */
export type LineEnd = "\n" | "\r\n" | "\r";

/** One line, split into words. The scanner reuses one object for every line: copy what must last. */
export class Line {
  /** Counted from 0. */
  number = 0;
  /** Offset of the first byte in the whole program. */
  startByte = 0;
  /** Offset behind the line end, so `endByte` of one line is `startByte` of the next. */
  endByte = 0;
  /** The bytes that hold the line at `from` (included) to `to` (excluded, without line end). */
  bytes: Uint8Array = new Uint8Array(0);
  from = 0;
  to = 0;
  /** How many words the line has, without `N`. */
  wordCount = 0;
  /** Upper-case letter of each word, as a byte. */
  readonly letters = new Uint8Array(MOST_WORDS);
  /** Number of each word; NaN for a letter that stands alone. */
  readonly values = new Float64Array(MOST_WORDS);
  /** Where each word starts in `bytes`. */
  readonly starts = new Uint32Array(MOST_WORDS);
  /** The line's own number (`N12`), NaN if it has none, and its checksum, -1 if it has none. */
  ownNumber = NaN;
  ownChecksum = -1;
  /** How many G and M words (and a leading T) the line has. */
  commandCount = 0;
  /** True for a command whose name is a word (`NAME KEY=value`): it has no words here, see `namedCommand`. */
  named = false;
  /** Free text behind a display or file command, or a named command as a whole: `textFrom` (included, -1 if none) to `textTo` (excluded). */
  textFrom = -1;
  textTo = -1;
  /** The line carries a checksum that does not fit its bytes. */
  damaged = false;
  /** Comment without its mark: `commentFrom` (included, -1 if none) to `commentTo` (excluded). */
  commentFrom = -1;
  commentTo = -1;

  /** The value of the first word with `letter` (a byte), at or behind word `first`; NaN if there is none. */
  value(letter: number, first = 0): number {
    for (let i = first; i < this.wordCount; i++) if (this.letters[i] === letter) return this.values[i];
    return NaN;
  }

  /** Whether a word with `letter` stands on the line, with or without a number. */
  has(letter: number, first = 0): boolean {
    for (let i = first; i < this.wordCount; i++) if (this.letters[i] === letter) return true;
    return false;
  }

  /** The line as text, without its end. */
  text(): string {
    return decode(this.bytes, this.from, this.to);
  }

  /** The line as text, without its comment. */
  code(): string {
    return decode(this.bytes, this.from, this.commentFrom < 0 ? this.to : this.commentFrom - 1);
  }

  /** A named command as text: without the line's own number, its checksum and its comment. */
  namedCommand(): string {
    return decode(this.bytes, this.textFrom, this.textTo).trim();
  }

  /** Where its words end: at the free text, the comment, the checksum or the end of the line. */
  wordsEnd(): number {
    if (this.textFrom >= 0) return this.textFrom;
    const end = this.commentFrom < 0 ? this.to : this.commentFrom - 1;
    if (this.ownChecksum < 0) return end;
    const star = this.bytes.indexOf(42, this.from);
    return star < 0 || star > end ? end : star;
  }

  /** Free text, trimmed; empty if there is none. */
  freeText(): string {
    return this.textFrom < 0 ? "" : decode(this.bytes, this.textFrom, this.textTo).trim();
  }

  /** The comment as text, trimmed; empty if there is none. */
  comment(): string {
    return this.commentFrom < 0 ? "" : decode(this.bytes, this.commentFrom, this.commentTo).trim();
  }
}

const decoder = new TextDecoder();

function decode(bytes: Uint8Array, from: number, to: number): string {
  return decoder.decode(bytes.subarray(from, to));
}

const isDigit = (byte: number) => byte >= 48 && byte <= 57;
const isLetter = (byte: number) => (byte >= 65 && byte <= 90) || (byte >= 97 && byte <= 122);

const G = 71;
const M = 77;
const N = 78;
const T = 84;

/** 10^0 … 10^9, so that a decimal is one exact division. */
const powersOfTen = Float64Array.from({ length: 10 }, (_, i) => 10 ** i);

/**
 * Splits `bytes[from, to)` into the words of `line`. Never throws, whatever the bytes are. `bytes[to]`, if there is one, must
 * not be a digit: it is the line's end.
 */
export function splitWords(line: Line, bytes: Uint8Array, from: number, to: number): void {
  line.bytes = bytes;
  line.from = from;
  line.to = to;
  line.named = false;
  line.damaged = false;
  line.textFrom = -1;
  line.commentFrom = -1;
  line.commentTo = -1;
  line.ownNumber = NaN;
  line.ownChecksum = -1;
  const { letters, values, starts } = line;
  let count = 0;
  let commands = 0;
  let at = from;
  while (at < to) {
    let byte = bytes[at];
    if (byte <= 32) {
      at++;
      continue;
    }
    if (byte >= 97 && byte <= 122) byte -= 32;
    if (byte >= 65 && byte <= 90) {
      const letterAt = at++;
      while (at < to && bytes[at] === 32) at++;
      let next = at;
      let digit = bytes[next];
      let sign = 1;
      if (digit === 45 || digit === 43) {
        if (digit === 45) sign = -1;
        digit = bytes[++next];
      }
      // The byte behind a line is its end, which is no digit: the loops need not look where the line stops. Up to nine
      // digits fit a whole 32-bit number, which nearly all words need; longer ones go the exact slow way.
      const numberAt = next;
      let mantissa = 0;
      let decimals = 0;
      while (digit >= 48 && digit <= 57) {
        mantissa = (mantissa * 10 + digit - 48) | 0;
        digit = bytes[++next];
      }
      let digits = next - numberAt;
      if (digit === 46) {
        const point = next;
        digit = bytes[++next];
        while (digit >= 48 && digit <= 57) {
          mantissa = (mantissa * 10 + digit - 48) | 0;
          digit = bytes[++next];
        }
        decimals = next - point - 1;
        digits += decimals;
      }
      let value = NaN;
      if (digits > 0) {
        if (digits > 9) value = sign * Number(decode(bytes, numberAt, next));
        else value = decimals > 0 ? (sign * mantissa) / powersOfTen[decimals] : sign * mantissa;
        at = next;
        if (digit === 101 || digit === 69) {
          const end = exponentEnd(bytes, next, to, bytes[letterAt]);
          if (end > 0) {
            value = sign * Number(decode(bytes, numberAt, end));
            at = end;
          }
        }
      } else {
        at = letterAt + 1;
        if (count === 0 && at < to && (isLetter(bytes[at]) || bytes[at] === 95)) {
          line.named = true;
          line.textFrom = letterAt;
          at = findComment(line, bytes, at, to);
          line.textTo = line.commentFrom < 0 ? to : line.commentFrom - 1;
          if (!Number.isNaN(line.ownNumber)) cutChecksum(line, bytes, from);
          break;
        }
      }
      if (byte === N && count === 0 && digits > 0) {
        line.ownNumber = value;
        continue;
      }
      if (count === MOST_WORDS) continue;
      letters[count] = byte;
      values[count] = value;
      starts[count] = letterAt;
      count++;
      if (byte === G || byte === M || (byte === T && count === 1)) {
        commands++;
        if (byte === M && textCommands.has(value)) {
          line.textFrom = at;
          findComment(line, bytes, at, to);
          line.textTo = line.commentFrom < 0 ? to : line.commentFrom - 1;
          if (!Number.isNaN(line.ownNumber)) cutChecksum(line, bytes, from);
          break;
        }
      }
      continue;
    }
    if (byte === 59) {
      line.commentFrom = at + 1;
      line.commentTo = to;
      break;
    }
    if (byte === 40) {
      const close = bytes.indexOf(41, at);
      const end = close < 0 || close >= to ? to : close;
      if (line.commentFrom < 0) {
        line.commentFrom = at + 1;
        line.commentTo = end;
      }
      at = end + 1;
      continue;
    }
    if (byte === 34) {
      at++;
      while (at < to && bytes[at] !== 34) at++;
      at++;
      continue;
    }
    if (byte === 42) {
      const sumTo = at++;
      let stated = 0;
      while (at < to && (isDigit(bytes[at]) || bytes[at] === 32)) {
        if (bytes[at] !== 32) stated = stated * 10 + bytes[at] - 48;
        at++;
      }
      line.ownChecksum = stated;
      line.damaged = stated !== xorChecksum(bytes, from, sumTo);
      continue;
    }
    at++;
  }
  line.wordCount = count;
  line.commandCount = commands;
}

/**
 * The words of a plain straight move: `G0` or `G1`, then X, Y, Z, E, F in any order, each once, with plain figures and nothing else on
 * the line. Most lines of most programs are so. NaN for a word that is not there.
 */
export class PlainMove {
  /** 0 or 1. */
  motion = 0;
  x = NaN;
  y = NaN;
  z = NaN;
  e = NaN;
  f = NaN;
}

/**
 * Cuts a plain straight move that starts at `from` into `move`; gives the offset of the line's end, or -1 for any other line, which
 * is `splitWords`' business. Both cut such a line into the same words. A byte `endByte` must stand at or behind `from`.
 */
export function cutPlainMove(move: PlainMove, bytes: Uint8Array, from: number, endByte: number): number {
  if (bytes[from] !== G) return -1;
  const motion = bytes[from + 1] - 48;
  if (motion !== 1 && motion !== 0) return -1;
  let x = NaN;
  let y = NaN;
  let z = NaN;
  let e = NaN;
  let f = NaN;
  let at = from + 2;
  let byte = bytes[at];
  while (byte === 32) {
    const letter = bytes[++at];
    byte = bytes[++at];
    const negative = byte === 45;
    if (negative) byte = bytes[++at];
    const digitsAt = at;
    let mantissa = 0;
    while (byte >= 48 && byte <= 57) {
      mantissa = (mantissa * 10 + byte - 48) | 0;
      byte = bytes[++at];
    }
    let digits = at - digitsAt;
    let value = mantissa;
    if (byte === 46) {
      const point = at;
      byte = bytes[++at];
      while (byte >= 48 && byte <= 57) {
        mantissa = (mantissa * 10 + byte - 48) | 0;
        byte = bytes[++at];
      }
      const decimals = at - point - 1;
      digits += decimals;
      if (digits > 9) return -1;
      value = mantissa / powersOfTen[decimals];
    }
    if (digits === 0 || digits > 9) return -1;
    if (negative) value = -value;
    if (letter === 88 && x !== x) x = value;
    else if (letter === 89 && y !== y) y = value;
    else if (letter === 69 && e !== e) e = value;
    else if (letter === 70 && f !== f) f = value;
    else if (letter === 90 && z !== z) z = value;
    else return -1;
  }
  if (byte !== endByte) {
    if (byte !== 13 || bytes[at + 1] !== endByte) return -1;
    at++;
  }
  move.motion = motion;
  move.x = x;
  move.y = y;
  move.z = z;
  move.e = e;
  move.f = f;
  return at;
}

/**
 * Where an exponent that starts at `at` ends, or -1 if it is none. Programs write none, but libraries that print numbers do
 * (`E1e-05`): an `e` behind a figure is the next word unless it cannot be. It cannot where E itself has the figure, nor where a
 * small `e` with a sign follows the figure of a capital letter.
 */
export function exponentEnd(bytes: Uint8Array, at: number, to: number, letter: number): number {
  const isE = letter === 69 || letter === 101;
  let next = at + 1;
  const signed = bytes[next] === 45 || bytes[next] === 43;
  if (signed) next++;
  if (!isE && !(signed && bytes[at] === 101 && letter < 97)) return -1;
  const digitsAt = next;
  while (next < to && isDigit(bytes[next])) next++;
  return next > digitsAt ? next : -1;
}

/** Takes the checksum of a numbered line off the end of its text. */
function cutChecksum(line: Line, bytes: Uint8Array, from: number): void {
  let at = line.textTo;
  while (at > line.textFrom && bytes[at - 1] <= 32) at--;
  const end = at;
  while (at > line.textFrom && isDigit(bytes[at - 1])) at--;
  if (at === end || bytes[at - 1] !== 42) return;
  line.ownChecksum = Number(decode(bytes, at, end));
  line.textTo = at - 1;
  line.damaged = line.ownChecksum !== xorChecksum(bytes, from, at - 1);
}

/** Notes the `;` comment of a line whose words are not split; quoted text is passed over. */
function findComment(line: Line, bytes: Uint8Array, from: number, to: number): number {
  let quoted = false;
  for (let at = from; at < to; at++) {
    if (bytes[at] === 34) quoted = !quoted;
    else if (bytes[at] === 59 && !quoted) {
      line.commentFrom = at + 1;
      line.commentTo = to;
      return to;
    }
  }
  return to;
}

/**
 * Cuts a stream of byte chunks into lines and hands each to `onLine`. Line ends are LF or CRLF, or CR alone where the first line
 * ends so; a byte-order mark and a missing final line end are taken as they come.
 */
export class LineScanner {
  readonly line = new Line();
  /** Lines so far. */
  lineCount = 0;
  /** Bytes so far. */
  byteCount = 0;
  /** Lines passed over because they were longer than any program line. */
  overlongLines = 0;
  /** The line end of the first line: what inserted lines must use too. */
  lineEnd: LineEnd = "\n";
  /** The byte that ends a line; 0 until the first one is seen. */
  private endByte = 0;
  private carry: Uint8Array = new Uint8Array(0);
  private overlong = false;
  private lineStartByte = 0;
  private readonly plainMove = new PlainMove();

  /**
   * @param onLine gets every line
   * @param onMove gets plain straight moves instead, with the number and the first byte of their line, if it wants them just now
   */
  constructor(
    private readonly onLine: (line: Line) => void,
    private readonly onMove: ((move: PlainMove, number: number, startByte: number) => boolean) | null = null,
  ) {}

  /** Takes the next chunk; the chunk may be reused by the caller afterwards. */
  push(chunk: Uint8Array): void {
    if (this.endByte === 0 && !this.seesLineEnd(chunk)) {
      this.keep(chunk);
      this.byteCount += chunk.length;
      return;
    }
    const { endByte } = this;
    let from = 0;
    if (endByte === 13 && this.carry.length > 0 && this.carry[this.carry.length - 1] === 13) {
      // A CR that might have become a CRLF has turned out to be a line end of its own.
      const line = this.carry;
      this.carry = new Uint8Array(0);
      this.emit(line, 0, line.length - 1, this.lineStartByte + line.length);
    }
    if (this.carry.length > 0 || this.overlong) {
      const end = chunk.indexOf(endByte);
      if (end < 0) {
        this.keep(chunk);
        this.byteCount += chunk.length;
        return;
      }
      const whole = new Uint8Array(this.carry.length + end + 1);
      whole.set(this.carry);
      whole.set(chunk.subarray(0, end + 1), this.carry.length);
      this.carry = new Uint8Array(0);
      this.emit(whole, 0, whole.length - 1, this.byteCount + end + 1);
      from = end + 1;
    }
    const lastEnd = chunk.lastIndexOf(endByte);
    const { onMove, plainMove } = this;
    while (from <= lastEnd) {
      let end = onMove ? cutPlainMove(plainMove, chunk, from, endByte) : -1;
      if (end >= 0 && this.lineCount > 0 && onMove!(plainMove, this.lineCount, this.lineStartByte)) {
        this.lineCount++;
        this.lineStartByte = this.byteCount + end + 1;
      } else {
        if (end < 0) end = chunk.indexOf(endByte, from);
        this.emit(chunk, from, end, this.byteCount + end + 1);
      }
      from = end + 1;
    }
    this.byteCount += chunk.length;
    if (from < chunk.length) this.keep(chunk.subarray(from));
  }

  /** Hands out the last line if the program does not end with a line end. */
  end(): void {
    if (this.carry.length > 0 || this.overlong) {
      const last = new Uint8Array(this.carry.length + 1);
      last.set(this.carry);
      this.carry = new Uint8Array(0);
      this.emit(last, 0, last.length - 1, this.byteCount);
    }
  }

  /** Looks for the first line end and takes it for that of the program; false while there is none, or while a CR may yet be a CRLF. */
  private seesLineEnd(chunk: Uint8Array): boolean {
    const carriedReturn = this.carry.length > 0 && this.carry[this.carry.length - 1] === 13;
    if (carriedReturn && chunk.length > 0) {
      this.endByte = chunk[0] === 10 ? 10 : 13;
      if (this.endByte === 13) this.lineEnd = "\r";
      return true;
    }
    const feed = chunk.indexOf(10);
    const before = feed < 0 ? chunk : chunk.subarray(0, feed);
    const back = before.indexOf(13);
    if (back >= 0 && back + 1 < before.length) {
      this.endByte = 13;
      this.lineEnd = "\r";
      return true;
    }
    if (feed < 0) return false;
    this.endByte = 10;
    return true;
  }

  private keep(rest: Uint8Array): void {
    if (this.overlong || this.carry.length + rest.length > LONGEST_LINE_BYTES) {
      this.overlong = true;
      this.carry = new Uint8Array(0);
      return;
    }
    const joined = new Uint8Array(this.carry.length + rest.length);
    joined.set(this.carry);
    joined.set(rest, this.carry.length);
    this.carry = joined;
  }

  private emit(bytes: Uint8Array, from: number, to: number, endByte: number): void {
    const { line } = this;
    line.number = this.lineCount++;
    line.startByte = this.lineStartByte;
    line.endByte = endByte;
    this.lineStartByte = endByte;
    if (to > from && bytes[to - 1] === 13) {
      to--;
      if (line.number === 0 && this.lineEnd === "\n") this.lineEnd = "\r\n";
    }
    if (line.number === 0 && to - from >= 3 && bytes[from] === 0xef && bytes[from + 1] === 0xbb) from += 3;
    if (this.overlong || to - from > LONGEST_LINE_BYTES) {
      this.overlong = false;
      this.overlongLines++;
      to = from;
    }
    splitWords(line, bytes, from, to);
    this.onLine(line);
  }
}
