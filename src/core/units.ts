/**
 * Units and the rounding that goes with them. Inside Cuchara: millimetres, seconds, degrees Celsius.
 */

/** Millimetres in one inch, exactly. Source: NIST SP 811, appendix B. */
export const MM_PER_INCH = 25.4;

/** Two heights closer than this are one height: what is left of a thousandth when it was written in inches. */
export const HEIGHT_TOLERANCE_MM = 1.5e-3;

/** Feed in mm/min, as programs carry it, to mm/s. */
export function feedMmMinToMmS(feedMmMin: number): number {
  return feedMmMin / 60;
}

/** `value` held between `low` and `high`, both included. */
export function clamp(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value));
}

/** `value` rounded to `decimals` places, without the noise of binary fractions (0.1 + 0.2 gives 0.3). */
export function roundTo(value: number, decimals: number): number {
  const scale = 10 ** decimals;
  const rounded = Math.round(value * scale) / scale;
  return rounded === 0 ? 0 : rounded;
}

/** Height in whole micrometres: the form in which heights are compared. */
export function toMicrometres(valueMm: number): number {
  return Math.round(valueMm * 1000);
}

/**
 * A number as programs and tables show it: at most `decimals` places, no trailing zeros, never an exponent, never `-0`.
 *
 * @example
 * plainNumber(0.1 + 0.2); // "0.3"
 * plainNumber(-0.0001, 2); // "0"
 */
export function plainNumber(value: number, decimals = 3): string {
  const rounded = roundTo(value, decimals);
  return rounded.toFixed(decimals).replace(/\.?0+$/, decimals > 0 ? "" : "$&");
}

/**
 * A duration as people say it: `48 s`, `12 min`, `1 h 52 min`.
 *
 * @example
 * sayDuration(6720); // "1 h 52 min"
 */
export function sayDuration(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** A size as people read it: `412 bytes`, `40 kB`, `2.4 MB`. Prefixes are decimal (ISO 80000-1): 1 kB is 1000 bytes. */
export function sayBytes(bytes: number): string {
  if (bytes < 1000) return `${Math.round(bytes)} ${Math.round(bytes) === 1 ? "byte" : "bytes"}`;
  const units = ["kB", "MB", "GB", "TB"];
  let figure = bytes / 1000;
  let unit = 0;
  while (figure >= 999.5 && unit < units.length - 1) {
    figure /= 1000;
    unit++;
  }
  return `${plainNumber(figure, figure < 9.95 ? 1 : 0)} ${units[unit]}`;
}

/** A key as words: `long-frame` → `Long frame`. */
export function sayKey(key: string): string {
  const words = key.replaceAll("-", " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
