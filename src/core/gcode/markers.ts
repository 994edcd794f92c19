/**
 * Comment markers found by pattern: any comment whose number counts up with the layers, whatever its words are. A shape
 * is a comment with every number taken out; a shape is alive as long as one of its numbers goes up by one each time.
 */
import { Line } from "./scan";

const MOST_SHAPES = 2000;
const MOST_NUMBERS = 4;
const LONGEST_MARKER_BYTES = 160;

/** One comment that may open a layer. */
export interface MarkerPlace {
  /** The number in the comment. */
  value: number;
  /** Line from 0. */
  line: number;
  /** Offset behind its line. */
  endByte: number;
  /** It stands before this move. */
  move: number;
}

/** All comments of one shape in which one number counts up by one. */
export interface MarkerSeries {
  /** An example with the number shown as `#`. */
  shape: string;
  places: MarkerPlace[];
}

const isDigit = (byte: number) => byte >= 48 && byte <= 57;
const isBlank = (byte: number) => byte === 32 || byte === 9 || byte === 13;
const isWordByte = (byte: number) => isDigit(byte) || (byte >= 65 && byte <= 90) || (byte >= 97 && byte <= 122);

/** More places of one comment than this are no layers. */
const MOST_PLACES = 500_000;
/** A comment that comes again within a layer more often than this, and than in a tenth of them, opens none. */
const MOST_AGAIN = 2;

interface Shape {
  example: string;
  numberPlaces: number;
  last: number[];
  alive: boolean[];
  /** Value columns per number, so that the right one can be taken at the end. */
  values: number[][];
  places: { line: number; endByte: number; move: number }[];
  /** All its places while it may open layers whatever its numbers say, and how often it came again at one height. */
  plain: { line: number; endByte: number; move: number }[] | null;
  again: number;
  lastStretch: number;
}

/** Collects candidates while a program is read. */
export class MarkerFinder {
  private readonly shapes = new Map<number, Shape>();
  private readonly found: number[] = [0, 0, 0, 0];

  /**
   * Looks at a line that holds a comment and nothing else.
   *
   * @param stretch how many stretches of one height were begun so far
   */
  see(line: Line, move: number, stretch: number): void {
    const { bytes } = line;
    const from = line.commentFrom;
    let to = line.commentTo;
    // Blanks behind it say nothing.
    while (to > from && isBlank(bytes[to - 1])) to--;
    if (to - from > LONGEST_MARKER_BYTES) return;
    let hash = 2166136261;
    let count = 0;
    let at = from;
    while (at < to) {
      const byte = bytes[at];
      if (byte >= 48 && byte <= 57) {
        let value = 0;
        let whole = true;
        // A minus belongs to the figure unless something stands before it: layers of a raft are counted below zero.
        const minus = at > from && bytes[at - 1] === 45 && (at - 1 === from || !isWordByte(bytes[at - 2]));
        while (at < to && bytes[at] >= 48 && bytes[at] <= 57) value = value * 10 + (bytes[at++] - 48);
        if (at + 1 < to && bytes[at] === 46 && bytes[at + 1] >= 48 && bytes[at + 1] <= 57) {
          whole = false;
          at++;
          while (at < to && bytes[at] >= 48 && bytes[at] <= 57) at++;
        }
        if (count < MOST_NUMBERS) this.found[count] = whole ? (minus ? -value : value) : NaN;
        count++;
        hash = Math.imul(hash ^ 35, 16777619);
      } else {
        const signs =
          byte === 45 && at + 1 < to && isDigit(bytes[at + 1]) && (at === from || !isWordByte(bytes[at - 1]));
        if (!signs) hash = Math.imul(hash ^ byte, 16777619);
        at++;
      }
    }
    const numbers = Math.min(count, MOST_NUMBERS);
    let shape = this.shapes.get(hash);
    if (!shape) {
      if (this.shapes.size >= MOST_SHAPES) this.forgetSingles();
      if (this.shapes.size >= MOST_SHAPES) return;
      shape = {
        example: line.comment(),
        numberPlaces: numbers,
        last: this.found.slice(0, numbers),
        alive: this.found.slice(0, numbers).map((value) => !Number.isNaN(value)),
        values: Array.from({ length: numbers }, (_, i) => [this.found[i]]),
        places: [{ line: line.number, endByte: line.endByte, move }],
        plain: [{ line: line.number, endByte: line.endByte, move }],
        again: 0,
        lastStretch: stretch,
      };
      this.shapes.set(hash, shape);
      return;
    }
    const place = { line: line.number, endByte: line.endByte, move };
    const isAtOneHeight = stretch === shape.lastStretch;
    this.takePlain(shape, place, stretch);
    if (isAtOneHeight && this.isSaidAgain(shape)) return;
    let anyAlive = false;
    for (let i = 0; i < shape.numberPlaces; i++) {
      if (!shape.alive[i]) continue;
      const value = this.found[i];
      if (this.follows(shape, i, value)) {
        shape.last[i] = value;
        shape.values[i].push(value);
        anyAlive = true;
      } else {
        shape.alive[i] = false;
        shape.values[i] = [];
      }
    }
    if (anyAlive) shape.places.push(place);
    else shape.places = [];
  }

  /** The same number once more, behind a change of tools say: the layer it is of is open. */
  private isSaidAgain({ alive, last }: Shape): boolean {
    return alive.some((isAlive) => isAlive) && last.every((value, i) => !alive[i] || this.found[i] === value);
  }

  /** One more; from below zero to 1, for some leave zero out; or from the first again, where a print is of pieces made one by one. */
  private follows({ last, values }: Shape, i: number, value: number): boolean {
    return (
      value === last[i] + 1 ||
      (last[i] === -1 && value === 1) ||
      (value === values[i][0] && values[i].length > 1 && (value === 0 || value === 1))
    );
  }

  private takePlain(shape: Shape, place: Shape["places"][number], stretch: number): void {
    const isAgain = stretch === shape.lastStretch;
    shape.lastStretch = stretch;
    if (!shape.plain) return;
    if (isAgain) shape.again++;
    shape.plain.push(place);
    const isTooOften = shape.again > MOST_AGAIN && shape.again > shape.plain.length / 10;
    if (isTooOften || shape.plain.length > MOST_PLACES) shape.plain = null;
  }

  /** Comments that came about once at each height, in the order they first stood in; their numbers, if any, do not count. */
  plain(): MarkerSeries[] {
    const all: MarkerSeries[] = [];
    for (const { example, plain, alive } of this.shapes.values()) {
      if (!plain || plain.length < 2 || alive.some((isAlive) => isAlive)) continue;
      all.push({ shape: example, places: plain.map((place) => ({ ...place, value: NaN })) });
    }
    return all.sort((a, b) => a.places[0].line - b.places[0].line);
  }

  /** Makes room: a picture in comments has thousands of lines, each of a shape of its own and seen once. */
  private forgetSingles(): void {
    for (const [hash, { places }] of this.shapes) if (places.length <= 1) this.shapes.delete(hash);
  }

  /** The series that counted without a gap to the end, longest first. */
  series(): MarkerSeries[] {
    const all: MarkerSeries[] = [];
    for (const shape of this.shapes.values()) {
      for (let i = 0; i < shape.numberPlaces; i++) {
        if (!shape.alive[i] || shape.places.length === 0) continue;
        const values = shape.values[i];
        let seen = -1;
        all.push({
          shape: shape.example.replace(/(?<!\w)-?\d+(\.\d+)?|\d+(\.\d+)?/g, (number) => (++seen === i ? "#" : number)),
          places: shape.places.map((place, index) => ({ ...place, value: values[index] })),
        });
      }
    }
    return all.sort((a, b) => b.places.length - a.places.length);
  }
}
