/**
 * One line with other figures in its words: everything else of it stays byte for byte. It goes by the words as the scanner has cut them, so that
 * what is changed is what was read: comments in brackets and behind semicolons, several commands on a line, blanks inside a word.
 */
import { plainNumber } from "../units";
import { exponentEnd, Line, MOST_WORDS, splitWords } from "./scan";

const [BLANK, PLUS, MINUS, POINT] = [32, 43, 45, 46];
const isDigit = (byte: number) => byte >= 48 && byte <= 57;

/** Beyond this a figure is written the slow way, mm or whatever its unit: more digits than a whole number holds. */
const MOST_FAST = 2 ** 50;

const encoder = new TextEncoder();
const decoder = new TextDecoder();

/** Reused from line to line: what must last is copied. */
export class EditedLine {
  private bytes = new Uint8Array(512);
  private length = 0;
  private count = 0;
  private readonly letters = new Uint8Array(MOST_WORDS);
  private readonly values = new Float64Array(MOST_WORDS);
  /** Where words begin in `bytes`. */
  private readonly starts = new Uint32Array(MOST_WORDS);
  private readonly digits = new Uint8Array(64);
  isChanged = false;

  /** Takes a line as it is. */
  take(line: Line): this {
    const { from, to } = line;
    this.length = to - from;
    if (this.bytes.length < this.length + 64) this.bytes = new Uint8Array(2 * this.length + 64);
    for (let i = 0; i < this.length; i++) this.bytes[i] = line.bytes[from + i];
    this.count = line.wordCount;
    for (let i = 0; i < this.count; i++) {
      this.letters[i] = line.letters[i];
      this.values[i] = line.values[i];
      this.starts[i] = line.starts[i] - from;
    }
    this.isChanged = false;
    return this;
  }

  /** The same for the text of a line. */
  takeText(text: string): this {
    const bytes = encoder.encode(`${text}\n`);
    splitWords(scratch, bytes, 0, bytes.length - 1);
    return this.take(scratch);
  }

  /** The first word with a letter (a byte) among the words from one (included) to another (excluded); -1 if there is none with a figure. */
  wordOf(letter: number, from = 0, to = this.count): number {
    for (let i = from; i < to; i++) if (this.letters[i] === letter && !Number.isNaN(this.values[i])) return i;
    return -1;
  }

  /** The figure of a word. */
  figureOf(word: number): number {
    return this.values[word];
  }

  /** The number of a word, as it is written. */
  writtenFigure(word: number): string {
    const [from, to] = [this.figureFrom(word), this.figureTo(word)];
    return decoder.decode(this.bytes.subarray(from, to));
  }

  /** How many places behind the point a word's figure is written with. */
  decimalsOf(word: number): number {
    const [from, to] = [this.figureFrom(word), this.figureTo(word)];
    for (let at = from; at < to; at++) {
      if (this.bytes[at] !== POINT) continue;
      let end = at + 1;
      while (end < to && isDigit(this.bytes[end])) end++;
      return end - at - 1;
    }
    return 0;
  }

  /** Another number for a word, with at most so many decimals, and written as `plainNumber` writes it. */
  setFigure(word: number, value: number, decimals: number): void {
    this.replace(word, this.write(value, decimals));
    this.values[word] = value;
  }

  /** The same, as it is to be written. */
  setWritten(word: number, figure: string): void {
    this.replace(word, this.copyDigits(figure));
    this.values[word] = Number(figure);
  }

  /** A word that the line has not, behind one of its words (its last if left out). */
  add(letter: number, figure: string, behind = this.count - 1): void {
    const at = behind < 0 ? this.wordless() : this.wordEnd(behind);
    this.open(at, at, figure.length + 2);
    this.bytes[at] = BLANK;
    this.bytes[at + 1] = letter;
    for (let i = 0; i < figure.length; i++) this.bytes[at + 2 + i] = figure.charCodeAt(i);
    for (let i = this.count; i > behind + 1; i--) {
      this.letters[i] = this.letters[i - 1];
      this.values[i] = this.values[i - 1];
      this.starts[i] = this.starts[i - 1];
    }
    this.count++;
    this.letters[behind + 1] = letter;
    this.values[behind + 1] = Number(figure);
    this.starts[behind + 1] = at + 1;
  }

  /** The line as it has become, with an end; lent until the next change. */
  lent(lineEnd: string): Uint8Array {
    const whole = this.length + lineEnd.length;
    if (whole > this.bytes.length) this.grow(whole);
    for (let i = 0; i < lineEnd.length; i++) this.bytes[this.length + i] = lineEnd.charCodeAt(i);
    return this.bytes.subarray(0, whole);
  }

  text(): string {
    return decoder.decode(this.bytes.subarray(0, this.length));
  }

  private figureFrom(word: number): number {
    let at = this.starts[word] + 1;
    while (at < this.length && this.bytes[at] === BLANK) at++;
    return at;
  }

  private figureTo(word: number): number {
    let at = this.figureFrom(word);
    if (this.bytes[at] === MINUS || this.bytes[at] === PLUS) at++;
    while (at < this.length && (isDigit(this.bytes[at]) || this.bytes[at] === POINT)) at++;
    const isExponent = at < this.length && (this.bytes[at] === 69 || this.bytes[at] === 101);
    const end = isExponent ? exponentEnd(this.bytes, at, this.length, this.bytes[this.starts[word]]) : -1;
    return end > 0 ? end : at;
  }

  private wordEnd(word: number): number {
    return Number.isNaN(this.values[word]) ? this.starts[word] + 1 : this.figureTo(word);
  }

  /** Where a word can stand on a line without words: in front of what is a comment. */
  private wordless(): number {
    let end = 0;
    while (end < this.length && this.bytes[end] !== 59 && this.bytes[end] !== 40) end++;
    while (end > 0 && this.bytes[end - 1] <= BLANK) end--;
    return end;
  }

  private replace(word: number, length: number): void {
    const [from, to] = [this.figureFrom(word), this.figureTo(word)];
    let isSame = to - from === length;
    for (let i = 0; isSame && i < length; i++) isSame = this.bytes[from + i] === this.digits[i];
    if (isSame) return;
    this.open(from, to, length);
    for (let i = 0; i < length; i++) this.bytes[from + i] = this.digits[i];
  }

  /** Makes room for so many bytes in the place of those from one (included) to another (excluded). */
  private open(from: number, to: number, length: number): void {
    const more = length - (to - from);
    if (this.length + more > this.bytes.length) this.grow(this.length + more);
    if (more !== 0) {
      this.bytes.copyWithin(to + more, to, this.length);
      for (let i = 0; i < this.count; i++) if (this.starts[i] >= to) this.starts[i] += more;
      this.length += more;
    }
    this.isChanged = true;
  }

  private grow(length: number): void {
    const larger = new Uint8Array(2 * length);
    larger.set(this.bytes.subarray(0, this.length));
    this.bytes = larger;
  }

  private copyDigits(figure: string): number {
    for (let i = 0; i < figure.length; i++) this.digits[i] = figure.charCodeAt(i);
    return figure.length;
  }

  /** Writes a figure into `digits`; its length. */
  private write(value: number, decimals: number): number {
    let scaled = Math.round(value * powersOfTen[decimals]);
    if (!(Math.abs(scaled) < MOST_FAST)) return this.copyDigits(plainNumber(value, decimals));
    const isNegative = scaled < 0;
    if (isNegative) scaled = -scaled;
    let places = decimals;
    while (places > 0 && scaled % 10 === 0) {
      scaled /= 10;
      places--;
    }
    // From the last digit to the first, then in order.
    let count = 0;
    do {
      if (count === places && places > 0) this.digits[count++] = POINT;
      const rest = scaled % 10;
      this.digits[count++] = 48 + rest;
      scaled = (scaled - rest) / 10;
    } while (scaled > 0 || (places > 0 && count <= places + 1));
    if (isNegative) this.digits[count++] = MINUS;
    for (let i = 0, j = count - 1; i < j; i++, j--) {
      const byte = this.digits[i];
      this.digits[i] = this.digits[j];
      this.digits[j] = byte;
    }
    return count;
  }
}

const powersOfTen = Float64Array.from({ length: 10 }, (_, i) => 10 ** i);
const scratch = new Line();
