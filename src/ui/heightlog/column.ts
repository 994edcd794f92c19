/** What a column of the height log is: it draws itself; the log keeps scale, cursor, zoom and keys. */
import type { ReactNode } from "react";
import type { LogScale } from "./scale";

export interface LogBand {
  number: number;
  fromMm: number;
  toMm: number;
  firstLayer: number;
  lastLayer: number;
  colour: string;
  /** Text of its value, as on the piece. */
  label: string;
  /** A line below the value, like `settled in 92 % of it`. */
  note?: string;
}

/** What a column draws on: the one axis, and where the column stands. */
export interface LogFrame {
  scale: LogScale;
  /** Heights of the layer tops, mm. */
  tops: ArrayLike<number>;
  bands: readonly LogBand[];
  /** The column's left side within the log, px. */
  leftPx: number;
}

/** The layer the cursor stands on. */
export interface LogCursor {
  layer: number;
  mm: number;
}

/** Room between two columns, px. */
export const GAP_PX = 12;

export interface LogColumn {
  title: string;
  /** With the gap behind it, px. */
  widthPx: number;
  /** Behind the title, and below it. */
  head?(frame: LogFrame): ReactNode;
  /** Stands on a pale ground, tinted where the bands lie. */
  hasGround?: boolean;
  /** The rings of the bands' edges stand at its right side. */
  holdsEdges?: boolean;
  /** Stands in front of the chart: lines of bands begin behind it. */
  isAxis?: boolean;
  /** How wide what it shows is: drawn to scale where that can be. */
  toScaleMm?: number;
  /** Its drawing, from the column's own top left corner. */
  drawing?(frame: LogFrame): ReactNode;
  /** Lines and figures in the one drawing that lies over all columns. */
  strokes?(frame: LogFrame): ReactNode;
  /** What the cursor is called in this column. */
  tag?(cursor: LogCursor): string;
  /** Where the tag stands, from the column's left side, px. */
  tagAt?: { left: number; width: number };
  /** Fields and marks over everything, placed within the log. */
  over?(frame: LogFrame): ReactNode;
}
