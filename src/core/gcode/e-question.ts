/**
 * Whether G90 carried the extruder along, asked of the program itself. Printers differ in it: behind `M83` some take `G90` to mean
 * absolute filament too, some do not (common practice, no source). The figures tell: absolute ones rise from laying move to laying
 * move, relative ones go up and down or stay as they are.
 */
import { Line, splitWords } from "./scan";

const [G, M, X, Y, E] = [71, 77, 88, 89, 69];

/** So many laying moves are enough to tell; so many lines are looked at for them. */
const ENOUGH_FIGURES = 24;
const MOST_LINES = 400;
const FEWEST_FIGURES = 3;
/** Above this share of figures that do not rise they are relative. A wipe may fall now and then among absolute ones. */
const RELATIVE_SHARE = 0.2;

/** `relative`: E still counts from where it stands; `absolute`: G90 carried it along. */
export type EAnswer = "relative" | "absolute" | "unclear";

/** Holds lines back until their E figures tell, or there are too many of them. */
export class EQuestion {
  private readonly held: { bytes: Uint8Array; number: number; startByte: number; endByte: number }[] = [];
  private last = NaN;
  private rising = 0;
  private others = 0;
  private figures = 0;

  /** @param line number of the G90 it is about, from 0 */
  constructor(readonly line: number) {}

  /** Takes one more line; true once the answer is known, or will not get any clearer. */
  hold(line: Line): boolean {
    const { number, startByte, endByte } = line;
    // One byte more: a line's words are cut up to a byte that is no digit.
    const bytes = new Uint8Array(line.to - line.from + 1);
    bytes.set(line.bytes.subarray(line.from, line.to));
    this.held.push({ bytes, number, startByte, endByte });
    const e = line.value(E);
    if (!Number.isNaN(e)) {
      if ((line.has(X) || line.has(Y)) && !Number.isNaN(this.last)) {
        if (e > this.last + 1e-9) this.rising++;
        else this.others++;
      }
      this.last = e;
      // Moves, with their G left out too; G92 only names the place.
      if (line.letters[0] !== M && !(line.letters[0] === G && line.values[0] > 3)) this.figures++;
    }
    return this.rising + this.others >= ENOUGH_FIGURES || this.held.length >= MOST_LINES;
  }

  /** Whether the answer changes anything: not at the end of a program, where nothing is fed any more. */
  get matters(): boolean {
    return this.figures > 0 || this.held.length >= MOST_LINES;
  }

  get answer(): EAnswer {
    const figures = this.rising + this.others;
    if (figures < FEWEST_FIGURES) return "unclear";
    return this.others / figures >= RELATIVE_SHARE ? "relative" : "absolute";
  }

  /** Hands the held lines out again, in their order. */
  release(take: (line: Line) => void): void {
    const line = new Line();
    for (const { bytes, number, startByte, endByte } of this.held) {
      line.number = number;
      line.startByte = startByte;
      line.endByte = endByte;
      splitWords(line, bytes, 0, bytes.length - 1);
      take(line);
    }
  }
}
