/** A sheet: a print as figures, strokes and repeats. Numbers are formulas, written as text; plain numbers are formulas, too. */
export type Expr = string | number;

/** A named number; it may be a formula of others. */
export interface Figure {
  name: string;
  value: Expr;
  unit?: string;
  low?: number;
  high?: number;
  step?: number;
}

/** How a stroke is laid; what is left out is the sheet's own. */
export interface Bead {
  widthMm?: Expr;
  heightMm?: Expr;
}

export interface Laying {
  bead?: Bead;
  speedMmS?: Expr;
  /** %; 100 where it is left out. */
  flow?: Expr;
  /** Height of the nozzle; the layer's own where it is left out. May use `z`, and along the stroke `t` and `a`. */
  z?: Expr;
  /** The filament is drawn back before it, or never; by distance where it is left out. */
  retract?: boolean;
  /** It keeps its place and does nothing. */
  off?: true;
}

export type Place = [x: Expr, y: Expr];

export interface LineStroke extends Laying {
  kind: "line";
  points: Place[];
  closed?: boolean;
}
export interface RectangleStroke extends Laying {
  kind: "rectangle";
  centre: Place;
  widthMm: Expr;
  depthMm: Expr;
  cornerMm?: Expr;
}
export interface PolygonStroke extends Laying {
  kind: "polygon";
  centre: Place;
  radiusMm: Expr;
  sides: Expr;
  /** Where its first corner lies, rad from X. */
  from?: Expr;
}
export interface CircleStroke extends Laying {
  kind: "circle";
  centre: Place;
  radiusMm: Expr;
  faces?: Expr;
}
export interface ArcStroke extends Laying {
  kind: "arc";
  /** By centre, radius and two angles (rad), or through three places. */
  centre?: Place;
  radiusMm?: Expr;
  from?: Expr;
  to?: Expr;
  through?: [Place, Place, Place];
}
export interface CurveStroke extends Laying {
  kind: "curve";
  from: Expr;
  to: Expr;
  /** By X and Y, or by angle (rad) and radius round a centre; `t` runs from `from` to `to`. */
  x?: Expr;
  y?: Expr;
  angle?: Expr;
  radiusMm?: Expr;
  centre?: Place;
  steps?: Expr;
}
export interface ClimbStroke extends Laying {
  kind: "climb";
  centre: Place;
  radiusMm: Expr;
  fromMm: Expr;
  toMm: Expr;
  risePerTurnMm: Expr;
  facesPerTurn?: Expr;
}
export interface TravelStroke {
  kind: "travel";
  to: Place;
  z?: Expr;
  off?: true;
}
export interface DwellStroke {
  kind: "dwell";
  seconds: Expr;
  off?: true;
}
export interface LinesStroke {
  kind: "lines";
  lines: string[];
  off?: true;
}

export type Stroke =
  | LineStroke
  | RectangleStroke
  | PolygonStroke
  | CircleStroke
  | ArcStroke
  | CurveStroke
  | ClimbStroke
  | TravelStroke
  | DwellStroke
  | LinesStroke;

export interface Repeat {
  kind: "repeat";
  along: "x" | "y" | "z" | "round" | "mirror";
  /** How often; two for a mirror. */
  count?: Expr;
  spacingMm?: Expr;
  /** Round this place, or mirrored at it. */
  centre?: Place;
  /** Between two, rad; a whole turn shared by all where it is left out. */
  angle?: Expr;
  /** The name that counts from 0. */
  counter?: string;
  items: Item[];
  off?: true;
}

export interface Group {
  kind: "group";
  name?: string;
  items: Item[];
  off?: true;
}

export type Item = Stroke | Repeat | Group;

export interface KeepOut {
  shape: "rectangle" | "circle" | "polygon";
  centre?: [number, number];
  radiusMm?: number;
  widthMm?: number;
  depthMm?: number;
  points?: [number, number][];
  fromMm?: number;
  toMm?: number;
}

export interface Sheet {
  version: 1;
  name: string;
  figures: Figure[];
  bead: { widthMm: Expr; heightMm: Expr };
  speedMmS: Expr;
  items: Item[];
  keepOut: KeepOut[];
  /** What a person would do by hand; on where it is left out. */
  optimise?: { nearestStart?: boolean; noNeedlessRetraction?: boolean };
}

export const isStroke = (item: Item): item is Stroke => item.kind !== "repeat" && item.kind !== "group";
