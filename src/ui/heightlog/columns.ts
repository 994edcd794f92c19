/** The columns a height log can have. Each is one way of drawing what happens at a height. */
import type { FrontView } from "@/core/printing/front-view";

export interface LogBand {
  number: number;
  fromMm: number;
  toMm: number;
  firstLayer: number;
  lastLayer: number;
  colour: string;
  /** Text of its value, as on the piece. */
  label: string;
  /** A line below the value, like `settled for 92 %`. */
  note?: string;
}

export type LogColumn =
  | { kind: "millimetres"; title: string; width: number }
  /** The specimen from the front, to scale. */
  | { kind: "front"; title: string; width: number; front: FrontView; widthMm: number }
  /** How wide the material of each layer is, for opened files. */
  | { kind: "outline"; title: string; width: number; minX: ArrayLike<number>; maxX: ArrayLike<number> }
  | { kind: "layers"; title: string; width: number; markers?: (number | undefined)[] }
  /** Curves along the height. */
  | {
      kind: "curves";
      title: string;
      width: number;
      unit: string;
      curves: LogCurve[];
      /** Range of the axis; the curves' own range where it is left out. */
      range?: [number, number];
    }
  /** What was done by hand, at its height. */
  | { kind: "marks"; title: string; width: number; marks: { heightMm: number; text: string }[] }
  /** The value of each band at its own height. */
  | { kind: "values"; title: string; width: number; values: LogValues | null };

export interface LogCurve {
  label: string;
  values: ArrayLike<number>;
  /** `limit`: what must not be passed. */
  style: "planned" | "expected" | "plain" | "limit";
}

export interface LogValues {
  unit: string;
  low: number;
  high: number;
  step: number;
  decimals: number;
  /** Null where the band does not set it. */
  of(band: LogBand): number | null;
  onChange?(band: LogBand, value: number): void;
}
