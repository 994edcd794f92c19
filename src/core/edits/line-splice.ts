/** Lines in the place of others, and lines between them, as splices. */
import { decodeLine } from "./line-text";
import type { Line } from "../gcode/scan";
import type { LineEnd } from "../gcode/scan";
import type { LayerReport } from "../report/report";
import type { Splice } from "./splice";

interface Where {
  layer: number;
  lineEnd: LineEnd;
  by: string;
}

/** The line's text in the place of what stands there; nothing where it stays as it is. An empty list takes it out. */
export function replaced(line: Line, lines: readonly string[], { layer, lineEnd, by }: Where): Splice | null {
  if (lines.length === 1 && lines[0] === decodeLine(line)) return null;
  const insert = lines.map((text) => text + lineEnd).join("");
  const removeBytes = line.endByte - line.startByte;
  return {
    atByte: line.startByte,
    removeBytes,
    removeLines: 1,
    insert,
    line: line.number,
    layer: Math.max(0, layer),
    by,
  };
}

/** Lines in front of one. */
export function before(
  line: Pick<Line, "startByte" | "number">,
  lines: readonly string[],
  { layer, lineEnd, by }: Where,
): Splice {
  const insert = lines.map((text) => text + lineEnd).join("");
  return {
    atByte: line.startByte,
    removeBytes: 0,
    removeLines: 0,
    insert,
    line: line.number,
    layer: Math.max(0, layer),
    by,
  };
}

/** Lines where a layer opens, before its first travel. */
export function openingLayer(
  { insertByte, insertLine, index }: LayerReport,
  lines: readonly string[],
  where: Omit<Where, "layer">,
): Splice {
  return before({ startByte: insertByte, number: insertLine - 1 }, lines, { ...where, layer: index });
}
