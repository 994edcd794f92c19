/** How far one thing on a piece has gone wrong, as a mark from 4, as wanted, down to 0. */
import { HIGHEST_MARK } from "../../reading/criterion";
import { clamp } from "../../units";
import type { Part } from "./part";
import type { Pen } from "./pen";
import type { PieceTruths } from "./truths";

/** What held while a unit of the piece was laid. */
export interface Laid {
  /** Shown by the thermometer, as measured where it was, °C. */
  nozzleC: number;
  fanPercent: number;
  retractionMm: number;
  retractionMmS: number;
  speedMmS: number;
  accelerationMmS2: number;
  /** In shares of the printer's own. */
  corneringShare: number;
  /** Null where nobody set any: then it is no part of the question. */
  pressureAdvance: number | null;
  /** Share of the material that should be there. */
  flowShare: number;
}

export interface Defect {
  /** @returns a mark between its whole numbers, as nobody could give it */
  mark(laid: Laid, truths: PieceTruths): number;
  /** Draws it on the part of the piece that has this mark; nothing where it is as wanted. */
  draw(part: Part, mark: number, pen: Pen): void;
}

/** The mark that is left when all that is lost is taken off. */
export const left = (...losses: number[]) =>
  clamp(HIGHEST_MARK - losses.reduce((sum, loss) => sum + loss, 0), 0, HIGHEST_MARK);

/** Marks lost by going beyond what is good: three of them `wide` beyond it, with the square of the way (invented). */
export const above = (value: number, good: number, wide: number) => 3 * (Math.max(0, value - good) / wide) ** 2;
export const below = (value: number, good: number, wide: number) => above(-value, -good, wide);

/** Marks lost towards a highest value that is still clean: one there, with the cube of the share (invented). */
export const towards = (value: number, highest: number) => (value / highest) ** 3;

/** How far from the best temperature or fan three marks are lost (invented). */
export const WIDE_C = 11;
export const WIDE_FAN = 55;
/** … and from the best flow, as a share. */
export const WIDE_FLOW = 0.12;

/** What is lost of a mark, 0 to 4. */
export const lost = (mark: number) => HIGHEST_MARK - mark;
