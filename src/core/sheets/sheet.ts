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
  /** Filament fed, mm for every mm of the stroke, instead of what width and height ask for. */
  filamentPerMm?: Expr;
}

/** How the inside of a closed stroke is filled. */
export interface Fill {
  /** Rings inside one another, or lines across. */
  pattern: "rings" | "lines";
  /** Direction of the lines, rad from X. */
  angle?: Expr;
  /** How much is covered, %; 100 (solid) where it is left out. */
  percent?: Expr;
}

export interface Laying {
  bead?: Bead;
  speedMmS?: Expr;
  /** %; 100 where it is left out. */
  flow?: Expr;
  /** Height of the nozzle; the layer's own where it is left out. May use `z`, and along the stroke `t` and `a`. */
  z?: Expr;
  /** The filament is drawn back before it, or never, or by so many mm (0: never); by distance where it is left out. */
  retract?: boolean | Expr;
  /** Where a closed stroke begins, 0 to 1 along it; nearest to the nozzle where it is left out. */
  start?: Expr;
  /** It runs from its end to its beginning. */
  reverse?: boolean;
  /** Closed strokes only. */
  fill?: Fill;
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
/** A word in single strokes, its lower left corner at a place. */
export interface WordStroke extends Laying {
  kind: "word";
  text: string;
  at: Place;
  /** Height of a capital letter. */
  sizeMm: Expr;
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
  | WordStroke
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
  centre?: Place;
  radiusMm?: Expr;
  widthMm?: Expr;
  depthMm?: Expr;
  points?: Place[];
  /** Heights of the nozzle it holds for; all where they are left out. */
  fromMm?: Expr;
  toMm?: Expr;
  /** Strokes go round its edge instead of over it. */
  around?: true;
  off?: true;
}

/** What `value` and `band(k)` come to where no trial says it: even steps from the lowest band to the highest. */
export interface Rehearsal {
  from: Expr;
  to: Expr;
  bands: Expr;
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
  optimise?: { nearestStart?: boolean; nearestCopy?: boolean; noNeedlessRetraction?: boolean };
  rehearse?: Rehearsal;
}

export const isStroke = (item: Item): item is Stroke => item.kind !== "repeat" && item.kind !== "group";
