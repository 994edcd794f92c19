/** What the rows of a sheet are called, what can be filled in on each, how each begins, and what is said of it in a line. */
import type { Expr, Item, Repeat } from "@/core/sheets/sheet";

export interface RowField {
  /** Where it stands in the row: `centre.0`. */
  path: string;
  label: string;
  /** It may be left empty. */
  isOptional?: boolean;
}

/** One of several ways to say the same kind of row: an arc round a centre, or through three places. */
interface Way {
  label: string;
  fields: RowField[];
  isUsed(item: Item): boolean;
  /** The row said this way; what both ways know stays. */
  make(item: Item): Item;
}

interface RowKind {
  label: string;
  fields(item: Item): RowField[];
  ways?: Way[];
  fresh(): Item;
  /** What it is, in a line; formulas as they are written. */
  says(item: never): string;
}

const f = (path: string, label: string): RowField => ({ path, label });
const maybe = (path: string, label: string): RowField => ({ path, label, isOptional: true });
const centre = [f("centre.0", "centre X"), f("centre.1", "centre Y")];
const at = ([x, y]: readonly [Expr, Expr]) => `${x}, ${y}`;
const only = (fields: RowField[]) => () => fields;

type Of<K extends Item["kind"]> = Extract<Item, { kind: K }>;

const arcWays: Way[] = [
  {
    label: "round a centre",
    fields: [...centre, f("radiusMm", "radius"), f("from", "from, rad"), f("to", "to, rad")],
    isUsed: (item) => (item as Of<"arc">).through === undefined,
    make: (item) => {
      const { through: _, ...rest } = item as Of<"arc">;
      return { ...rest, centre: ["110", "110"], radiusMm: "10", from: "0", to: "pi" };
    },
  },
  {
    label: "through three places",
    fields: [0, 1, 2].flatMap((i) => [f(`through.${i}.0`, `${i + 1}. X`), f(`through.${i}.1`, `${i + 1}. Y`)]),
    isUsed: (item) => (item as Of<"arc">).through !== undefined,
    make: (item) => {
      const { centre: _c, radiusMm: _r, from: _f, to: _t, ...rest } = item as Of<"arc">;
      return {
        ...rest,
        through: [
          ["100", "110"],
          ["110", "120"],
          ["120", "110"],
        ],
      };
    },
  },
];

const run = [f("from", "t from"), f("to", "t to"), maybe("steps", "steps")];
const curveWays: Way[] = [
  {
    label: "by x and y",
    fields: [f("x", "x"), f("y", "y"), ...run],
    isUsed: (item) => (item as Of<"curve">).x !== undefined,
    make: (item) => {
      const { angle: _a, radiusMm: _r, centre: _c, ...rest } = item as Of<"curve">;
      return { ...rest, x: "70 + 80*t", y: "110" };
    },
  },
  {
    label: "by angle and radius",
    fields: [
      f("angle", "angle, rad"),
      f("radiusMm", "radius"),
      maybe("centre.0", "centre X"),
      maybe("centre.1", "centre Y"),
      ...run,
    ],
    isUsed: (item) => (item as Of<"curve">).x === undefined,
    make: (item) => {
      const { x: _x, y: _y, ...rest } = item as Of<"curve">;
      return { ...rest, angle: "6*2*pi*t", radiusMm: "5 + 20*t", centre: ["110", "110"] };
    },
  },
];

const alongNames: Record<Repeat["along"], string> = {
  x: "along X",
  y: "along Y",
  z: "up",
  round: "round",
  mirror: "mirrored",
};
export const alongOptions = (Object.keys(alongNames) as Repeat["along"][]).map((value) => ({
  value,
  label: { ...alongNames, round: "round a place" }[value],
}));

const repeatFields: Record<Repeat["along"], RowField[]> = {
  x: [f("count", "times"), f("spacingMm", "every"), maybe("counter", "counter")],
  y: [f("count", "times"), f("spacingMm", "every"), maybe("counter", "counter")],
  z: [f("count", "times"), f("spacingMm", "every"), maybe("counter", "counter")],
  round: [f("count", "times"), ...centre, maybe("angle", "each, rad"), maybe("counter", "counter")],
  mirror: [...centre, maybe("angle", "axis, rad"), maybe("counter", "counter")],
};

export const rowKinds: { [K in Item["kind"]]: RowKind } = {
  circle: {
    label: "ring",
    fields: only([...centre, f("radiusMm", "radius"), maybe("faces", "faces")]),
    fresh: () => ({ kind: "circle", centre: ["110", "110"], radiusMm: "10" }),
    says: ({ centre: c, radiusMm, faces }: Of<"circle">) =>
      `${at(c)}  radius ${radiusMm}${faces === undefined ? "" : `  ${faces} faces`}`,
  },
  rectangle: {
    label: "rectangle",
    fields: only([...centre, f("widthMm", "wide"), f("depthMm", "deep"), maybe("cornerMm", "corners")]),
    fresh: () => ({ kind: "rectangle", centre: ["110", "110"], widthMm: "20", depthMm: "10" }),
    says: ({ centre: c, widthMm, depthMm }: Of<"rectangle">) => `${at(c)}  ${widthMm} × ${depthMm}`,
  },
  polygon: {
    label: "polygon",
    fields: only([...centre, f("radiusMm", "radius"), f("sides", "sides"), maybe("from", "turned, rad")]),
    fresh: () => ({ kind: "polygon", centre: ["110", "110"], radiusMm: "10", sides: "6" }),
    says: ({ centre: c, radiusMm, sides }: Of<"polygon">) => `${at(c)}  radius ${radiusMm}  ${sides} sides`,
  },
  line: {
    label: "line",
    fields: (item) =>
      (item as Of<"line">).points.length > 2
        ? []
        : [f("points.0.0", "from X"), f("points.0.1", "from Y"), f("points.1.0", "to X"), f("points.1.1", "to Y")],
    fresh: () => ({
      kind: "line",
      points: [
        ["90", "110"],
        ["130", "110"],
      ],
    }),
    says: ({ points, closed }: Of<"line">) =>
      points.length === 2 && !closed
        ? `${at(points[0])} to ${at(points[1])}`
        : `${points.length.toLocaleString("en")} places from ${at(points[0])}${closed ? ", closed" : ""}`,
  },
  arc: {
    label: "arc",
    fields: only([]),
    ways: arcWays,
    fresh: () => ({ kind: "arc", centre: ["110", "110"], radiusMm: "10", from: "0", to: "pi" }),
    says: ({ centre: c, radiusMm, from, to, through }: Of<"arc">) =>
      through ? `through ${through.map(at).join("; ")}` : `${at(c!)}  radius ${radiusMm}  ${from} to ${to}`,
  },
  curve: {
    label: "curve",
    fields: only([]),
    ways: curveWays,
    fresh: () => ({ kind: "curve", from: "0", to: "1", x: "70 + 80*t", y: "110 + 5*sin(2*pi*4*t)", steps: "200" }),
    says: ({ x, y, angle, radiusMm }: Of<"curve">) =>
      x === undefined ? `angle ${angle}  radius ${radiusMm}` : `x ${x}  y ${y}`,
  },
  climb: {
    label: "climbing wall",
    fields: only([
      ...centre,
      f("radiusMm", "radius"),
      f("fromMm", "from z"),
      f("toMm", "to z"),
      f("risePerTurnMm", "a turn"),
      maybe("facesPerTurn", "faces"),
    ]),
    fresh: () => ({
      kind: "climb",
      centre: ["110", "110"],
      radiusMm: "20",
      fromMm: "0.2",
      toMm: "20",
      risePerTurnMm: "0.2",
    }),
    says: ({ centre: c, radiusMm, fromMm, toMm }: Of<"climb">) =>
      `${at(c)}  radius ${radiusMm}  z ${fromMm} to ${toMm}`,
  },
  word: {
    label: "word",
    fields: only([f("text", "word"), f("at.0", "from X"), f("at.1", "from Y"), f("sizeMm", "high")]),
    fresh: () => ({ kind: "word", text: "HELLO", at: ["90", "110"], sizeMm: "10" }),
    says: ({ text, at: place, sizeMm }: Of<"word">) => `“${text}”  ${at(place)}  ${sizeMm} high`,
  },
  travel: {
    label: "travel",
    fields: only([f("to.0", "to X"), f("to.1", "to Y"), maybe("z", "to z")]),
    fresh: () => ({ kind: "travel", to: ["110", "110"] }),
    says: ({ to, z }: Of<"travel">) => `to ${at(to)}${z === undefined ? "" : `, ${z}`}`,
  },
  dwell: {
    label: "wait",
    fields: only([f("seconds", "seconds")]),
    fresh: () => ({ kind: "dwell", seconds: "1" }),
    says: ({ seconds }: Of<"dwell">) => `${seconds} s`,
  },
  lines: {
    label: "own lines",
    fields: only([]),
    fresh: () => ({ kind: "lines", lines: ["M117 Cuchara"] }),
    says: ({ lines }: Of<"lines">) => lines.join("  ") || "none yet",
  },
  repeat: {
    label: "repeat",
    fields: (item) => repeatFields[(item as Repeat).along],
    fresh: () => ({ kind: "repeat", along: "x", count: "3", spacingMm: "20", items: [] }),
    says: ({ along, count = 2, spacingMm, counter }: Repeat) =>
      [
        along === "mirror" ? "" : `${count} ×`,
        spacingMm === undefined || !"xyz".includes(along) ? "" : `every ${spacingMm}`,
        counter === undefined ? "" : `counter ${counter}`,
      ]
        .filter(Boolean)
        .join("  "),
  },
  group: {
    label: "group",
    fields: only([maybe("name", "name")]),
    fresh: () => ({ kind: "group", items: [] }),
    says: ({ name, items }: Of<"group">) => name ?? `${items.length} ${items.length === 1 ? "row" : "rows"}`,
  },
};

/** What stands first in a row: a repeat is called by where it runs. */
export const rowTitle = (item: Item): string =>
  item.kind === "repeat" ? alongNames[item.along] : rowKinds[item.kind].label;

export const rowSays = (item: Item): string => rowKinds[item.kind].says(item as never);

/** The way a row is said now, where its kind has several. */
export const wayOf = (item: Item): Way | null => rowKinds[item.kind].ways?.find(({ isUsed }) => isUsed(item)) ?? null;

export const fieldsOf = (item: Item): RowField[] => wayOf(item)?.fields ?? rowKinds[item.kind].fields(item);

/** Rows that lay something, and so can be laid in other ways than the sheet's own. */
export const isLaid = (item: Item): boolean => !["travel", "dwell", "lines", "repeat", "group"].includes(item.kind);
export const isClosed = (item: Item): boolean =>
  item.kind === "circle" ||
  item.kind === "rectangle" ||
  item.kind === "polygon" ||
  (item.kind === "line" && item.closed === true);

/** How a stroke is laid where it differs from the sheet. */
export const layingFields: RowField[] = [
  maybe("bead.widthMm", "bead wide"),
  maybe("bead.heightMm", "bead high"),
  maybe("bead.filamentPerMm", "filament a mm"),
  maybe("speedMmS", "speed, mm/s"),
  maybe("flow", "flow, %"),
  maybe("z", "nozzle z"),
];
export const startField: RowField = maybe("start", "begins, 0 to 1");

/** The formula at a place of a row; undefined where it says none. */
export function exprAt(row: object, path: string): Expr | undefined {
  let found: unknown = row;
  for (const key of path.split(".")) found = (found as Record<string, unknown> | undefined)?.[key];
  return found as Expr | undefined;
}

/** The row with another formula at a place; an empty one takes what may be left out away. */
export function withExpr<R extends object>(row: R, { path, isOptional }: RowField, text: string): R {
  const keys = path.split(".");
  return isOptional && text.trim() === "" ? (without(row, keys) as R) : (put(row, keys, text) as R);
}

function put(at: unknown, [key, ...more]: string[], value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(at)) return at.map((one: unknown, i) => (String(i) === key ? put(one, more, value) : one));
  return { ...(at as object), [key]: put((at as Record<string, unknown> | undefined)?.[key], more, value) };
}

function without(at: unknown, [key, ...more]: string[]): object | undefined {
  // A place is two figures or none: an emptied one is left out whole.
  if (Array.isArray(at)) return undefined;
  const { [key]: inner, ...rest } = at as Record<string, unknown>;
  const next = more.length === 0 || inner === undefined ? undefined : without(inner, more);
  return next === undefined || Object.keys(next).length === 0 ? rest : { ...rest, [key]: next };
}
