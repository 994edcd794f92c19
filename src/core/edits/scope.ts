/** Where in a file an edit acts: from a layer or height on, until another, in one of its three parts. */
import { z } from "zod";
import { refuse, Result, succeed } from "../result";
import { HEIGHT_TOLERANCE_MM, plainNumber } from "../units";
import type { SeenFile } from "./edit";

export const parts = ["start", "print", "end"] as const;
export type Part = (typeof parts)[number];

/** Layers or heights, both ends included; what is left out is open. */
export interface Scope {
  fromLayer?: number;
  toLayer?: number;
  countsFrom?: 0 | 1;
  fromMm?: number;
  toMm?: number;
}

const layer = z
  .int({ error: "A layer is a whole number" })
  .min(0, "A layer number cannot be negative")
  .max(1_000_000, "There is no such layer");
const height = z
  .number({ error: "A height must be a number in mm" })
  .min(0, "A height cannot be below the bed")
  .max(2000, "A height must be at most 2000 mm");

/** The fields of a scope, for the schema of an edit. */
export const scopeFields = {
  fromLayer: layer.optional(),
  toLayer: layer.optional(),
  countsFrom: z
    .union([z.literal(0), z.literal(1)], { error: "Say whether layers count from 0 or from 1 (countsFrom)" })
    .optional(),
  fromMm: height.optional(),
  toMm: height.optional(),
};

/** The layers (from 0) that a scope holds. */
export interface ScopeLayers {
  /** The lowest of the first piece. */
  first: number;
  holds(layer: number): boolean;
  /** Stretches of layers that follow one another, in the order they are laid. */
  spans: { first: number; last: number }[];
}

/**
 * The layers of a scope; refused with the field if it says one thing twice, or lies above the piece. A height is asked of each layer on the
 * piece it is part of: of pieces printed one after the other, every one has layers there.
 */
export function layersOf(scope: Scope, { report: { layers } }: SeenFile): Result<ScopeLayers> {
  const { fromLayer, toLayer, fromMm, toMm, countsFrom = 1 } = scope;
  if (fromLayer !== undefined && fromMm !== undefined)
    return refuse("Say from which layer or from which height, not both.", "fromMm");
  if (toLayer !== undefined && toMm !== undefined)
    return refuse("Say to which layer or to which height, not both.", "toMm");
  const top = layers.reduce((highest, { zMm }) => Math.max(highest, zMm), 0);
  const firstByNumber = (fromLayer ?? countsFrom) - countsFrom;
  if (fromLayer !== undefined && fromLayer < countsFrom) {
    return refuse(`Layers count from ${countsFrom} here: there is no layer ${fromLayer}.`, "fromLayer");
  }
  const begins = layers.map(({ zMm }, index) =>
    fromMm === undefined ? index >= firstByNumber : zMm > fromMm + HEIGHT_TOLERANCE_MM,
  );
  if (!begins.includes(true)) {
    return refuse(
      `The piece ends at ${plainNumber(top)} mm, layer ${layers.length - 1 + countsFrom}: there is nothing above that.`,
      fromMm !== undefined ? "fromMm" : "fromLayer",
    );
  }
  const lastByNumber = (toLayer ?? Infinity) - countsFrom;
  const isIn = layers.map(
    ({ zMm, heightMm }, index) =>
      begins[index] && (toMm === undefined ? index <= lastByNumber : zMm - heightMm < toMm - HEIGHT_TOLERANCE_MM),
  );
  if (!isIn.includes(true))
    return refuse("The scope ends below where it begins.", toMm !== undefined ? "toMm" : "toLayer");
  const spans: ScopeLayers["spans"] = [];
  isIn.forEach((holds, index) => {
    const last = spans[spans.length - 1];
    if (holds && last?.last === index - 1) last.last = index;
    else if (holds) spans.push({ first: index, last: index });
  });
  return succeed({ first: spans[0].first, holds: (layer) => isIn[layer] === true, spans });
}

/** Follows the lines of a file from the first to the last, and says of each where it stands. */
export class PlaceFinder {
  /** Layer of the line, from 0; -1 before the first. */
  layer = -1;
  part: Part = "start";

  constructor(private readonly file: SeenFile) {}

  /** @param line from 0, rising from call to call */
  at(line: number): void {
    const { layers, printFrom } = this.file.report;
    while (this.layer + 1 < layers.length && line >= layers[this.layer + 1].insertLine - 1) this.layer++;
    if (this.layer < 0) this.part = line < printFrom.line ? "start" : "print";
    else this.part = line > this.file.lastLayingLine() ? "end" : "print";
  }
}
