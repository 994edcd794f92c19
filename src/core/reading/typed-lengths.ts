/** Lengths as people type and paste them: columns of figures, and figures that look mistyped. */
import { plainNumber, roundTo } from "../units";

/** The figures of a pasted text, a comma or a point before the decimals; null where something in it is none. */
export function pastedLengths(text: string): number[] | null {
  const parts = text.split(/[\s;]+/).filter((part) => part !== "");
  const figures = parts.map((part) => (/^\d*[.,]?\d+$/.test(part) ? Number(part.replace(",", ".")) : NaN));
  return figures.length > 0 && figures.every((mm) => mm > 0) ? figures : null;
}

/** Between a length and what it should be there is never so much, whatever went wrong. Common practice, no source. */
const FAR = 2;
/** Slips of the decimal point. */
const slips = [10, 100, 1000, 0.1, 0.01];
/** With the point mended it lies as near as this to what was expected. */
const NEAR_SHARE = 0.3;

export interface Doubt {
  /** `4.5 mm is 10 times …`: a question. */
  ask: string;
  /** What was probably meant; null where nothing comes near. */
  meantMm: number | null;
}

/** A question where a length lies far from what was expected: from what was told, or from the others measured. Null where it does not. */
export function doubtOf(mm: number, expectedMm: number | null): Doubt | null {
  if (expectedMm === null || !(expectedMm > 0) || (mm < expectedMm * FAR && mm > expectedMm / FAR)) return null;
  const meant = slips.map((slip) => mm / slip).find((one) => Math.abs(one - expectedMm) <= expectedMm * NEAR_SHARE);
  const said = `${plainNumber(mm, 3)} mm is far from ${plainNumber(expectedMm, 2)} mm.`;
  if (meant === undefined) return { ask: `${said} Was it read like that?`, meantMm: null };
  const meantMm = roundTo(meant, 4);
  return { ask: `${said} Was ${plainNumber(meantMm, 4)} mm meant?`, meantMm };
}

/** The middle one of some lengths; null of none. */
export function medianOf(lengths: readonly number[]): number | null {
  if (lengths.length === 0) return null;
  const sorted = [...lengths].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}
