/** Places of a line as text: a place a line, X and Y parted by a comma, a semicolon or a tab, as tables are pasted. */
import { refuse, Result, succeed } from "../result";
import type { Place } from "./sheet";

export const MOST_PLACES = 20_000;

export const sayPoints = (points: readonly Place[]): string => points.map(([x, y]) => `${x}, ${y}`).join("\n");

/**
 * The places of a text; a head of words (`x,y`) is passed over. Commas within brackets part nothing: `max(a, b), 3` is one place.
 * Refused with the line that is none.
 */
export function readPoints(text: string, least = 2): Result<Place[]> {
  const lines = text.split(/\r\n|\r|\n/);
  const places: Place[] = [];
  for (const [i, line] of lines.entries()) {
    if (line.trim() === "") continue;
    const parts = partsOf(line);
    if (places.length === 0 && isHead(parts)) continue;
    if (parts.length < 2 || parts[0] === "" || parts[1] === "")
      return refuse(`Line ${i + 1}, “${line.trim().slice(0, 40)}”, is no place: write X, then a comma, then Y.`);
    places.push([parts[0], parts[1]]);
  }
  if (places.length < least) return refuse(`There are ${places.length} places; ${least} are needed at least.`);
  if (places.length > MOST_PLACES)
    return refuse(
      `There are ${places.length.toLocaleString("en")} places; ${MOST_PLACES.toLocaleString("en")} can be.`,
    );
  return succeed(places);
}

const isHead = (parts: readonly string[]): boolean =>
  parts.length >= 2 && parts.slice(0, 2).every((part) => /^"?[xy]\b[^0-9(]*$/i.test(part));

function partsOf(line: string): string[] {
  const parts: string[] = [];
  let part = "";
  let depth = 0;
  for (const sign of line) {
    if (sign === "(") depth++;
    if (sign === ")") depth--;
    if (depth === 0 && /[,;\t]/.test(sign)) {
      parts.push(part);
      part = "";
    } else part += sign;
  }
  return [...parts, part].map((one) => one.trim().replace(/^"(.*)"$/, "$1"));
}
