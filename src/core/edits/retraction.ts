/**
 * Retraction inside a file that retracts with E moves. With absolute E only the end point of the drawing-back line changes (the restoring
 * line returns to the same E); with relative E both change. Nothing else of the file moves.
 */
import { plainNumber } from "../units";
import { FileRetractions } from "./edit";
import { Splice } from "./splice";

export interface RetractionWishes {
  /** Wanted per layer; NaN where the plan says nothing. */
  lengthMm?: Float64Array;
  speedMmS?: Float64Array;
}

export interface RetractionChange {
  splices: Splice[];
  /** Lines that have no feed of their own, so that their speed was left alone. */
  withoutFeed: number;
}

/** One tool's lines rewritten for the wishes; lines in `removed` are left out. */
export function changeRetractions(
  { lines }: FileRetractions,
  { lengthMm, speedMmS }: RetractionWishes,
  removed: ReadonlySet<number>,
  tool: number,
): RetractionChange {
  const splices: Splice[] = [];
  let withoutFeed = 0;
  // What the last drawing back became, for the line that gives it back.
  let drawn: { oldMm: number; newMm: number; speedMmS: number } | null = null;
  for (const line of lines) {
    if (removed.has(line.line) || line.tool !== tool) continue;
    const drawsBack = line.fedMm < 0;
    if (drawsBack) {
      const wishedMm = lengthMm?.[line.layer] ?? NaN;
      const oldMm = -line.fedMm;
      drawn = { oldMm, newMm: Number.isNaN(wishedMm) ? oldMm : wishedMm, speedMmS: speedMmS?.[line.layer] ?? NaN };
    }
    if (!drawn) continue;
    let text = line.text;
    const shiftMm = drawn.newMm - drawn.oldMm;
    if (Math.abs(shiftMm) > 1e-6 && (drawsBack || !line.absolute)) {
      // Both kinds of E go back by as much more as the new length is longer; giving back goes the other way.
      text = changeWord(text, "E", (value) => plainNumber(value + (drawsBack ? -shiftMm : shiftMm), 5)) ?? text;
    }
    if (!Number.isNaN(drawn.speedMmS)) {
      const feed = Math.round(drawn.speedMmS * 60);
      const fed = changeWord(text, "F", () => String(feed));
      if (fed === null) withoutFeed++;
      else text = fed;
    }
    if (text !== line.text) {
      const bytes = new TextEncoder().encode(line.text).length;
      splices.push({ atByte: line.startByte, removeBytes: bytes, insert: text, line: line.line, layer: line.layer });
    }
    if (!drawsBack) drawn = null;
  }
  return { splices, withoutFeed };
}

/** The line with the number behind `letter` changed, before any comment; null if it has no such word. */
function changeWord(text: string, letter: string, change: (value: number) => string): string | null {
  const comment = text.search(/[;(]/);
  const code = comment < 0 ? text : text.slice(0, comment);
  const found = new RegExp(`${letter}\\s*([-+]?\\d*\\.?\\d+)`, "i").exec(code);
  if (!found) return null;
  const from = found.index + found[0].length - found[1].length;
  return text.slice(0, from) + change(Number(found[1])) + text.slice(from + found[1].length);
}
