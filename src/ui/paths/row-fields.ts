/** What the rows of a sheet are called, what can be filled in on each, and how each begins. */
import type { Expr, Item } from "@/core/sheets/sheet";

export interface RowField {
  /** Where it stands in the row: `centre.0`. */
  path: string;
  label: string;
}

interface RowKind {
  label: string;
  fields: RowField[];
  fresh(): Item;
}

const f = (path: string, label: string): RowField => ({ path, label });
const centre = [f("centre.0", "centre X"), f("centre.1", "Y")];

export const rowKinds: Record<Exclude<Item["kind"], "lines">, RowKind> = {
  circle: {
    label: "ring",
    fields: [...centre, f("radiusMm", "radius"), f("faces", "faces")],
    fresh: () => ({ kind: "circle", centre: ["110", "110"], radiusMm: "10" }),
  },
  rectangle: {
    label: "rectangle",
    fields: [...centre, f("widthMm", "wide"), f("depthMm", "deep"), f("cornerMm", "corners")],
    fresh: () => ({ kind: "rectangle", centre: ["110", "110"], widthMm: "20", depthMm: "10" }),
  },
  polygon: {
    label: "polygon",
    fields: [...centre, f("radiusMm", "radius"), f("sides", "sides")],
    fresh: () => ({ kind: "polygon", centre: ["110", "110"], radiusMm: "10", sides: "6" }),
  },
  line: {
    label: "line",
    fields: [f("points.0.0", "from X"), f("points.0.1", "Y"), f("points.1.0", "to X"), f("points.1.1", "Y")],
    fresh: () => ({
      kind: "line",
      points: [
        ["90", "110"],
        ["130", "110"],
      ],
    }),
  },
  arc: {
    label: "arc",
    fields: [...centre, f("radiusMm", "radius"), f("from", "from, rad"), f("to", "to, rad")],
    fresh: () => ({ kind: "arc", centre: ["110", "110"], radiusMm: "10", from: "0", to: "pi" }),
  },
  curve: {
    label: "curve",
    fields: [f("x", "x"), f("y", "y"), f("from", "t from"), f("to", "to"), f("steps", "steps"), f("z", "z")],
    fresh: () => ({ kind: "curve", from: "0", to: "1", x: "70 + 80*t", y: "110 + 5*sin(2*pi*4*t)", steps: "200" }),
  },
  climb: {
    label: "climbing wall",
    fields: [
      ...centre,
      f("radiusMm", "radius"),
      f("fromMm", "from z"),
      f("toMm", "to z"),
      f("risePerTurnMm", "a turn"),
    ],
    fresh: () => ({
      kind: "climb",
      centre: ["110", "110"],
      radiusMm: "20",
      fromMm: "0.2",
      toMm: "20",
      risePerTurnMm: "0.2",
    }),
  },
  word: {
    label: "word",
    fields: [f("text", "word"), f("at.0", "from X"), f("at.1", "Y"), f("sizeMm", "high")],
    fresh: () => ({ kind: "word", text: "HELLO", at: ["90", "110"], sizeMm: "10" }),
  },
  travel: {
    label: "travel",
    fields: [f("to.0", "to X"), f("to.1", "Y"), f("z", "z")],
    fresh: () => ({ kind: "travel", to: ["110", "110"] }),
  },
  dwell: { label: "wait", fields: [f("seconds", "seconds")], fresh: () => ({ kind: "dwell", seconds: "1" }) },
  repeat: {
    label: "repeat",
    fields: [f("count", "times"), f("spacingMm", "every")],
    fresh: () => ({ kind: "repeat", along: "x", count: "3", spacingMm: "20", items: [] }),
  },
  group: { label: "group", fields: [], fresh: () => ({ kind: "group", items: [] }) },
};

export const rowKindOf = (kind: Item["kind"]): RowKind | null => (kind === "lines" ? null : rowKinds[kind]);

/** The formula at a place of a row; undefined where it says none. */
export function exprAt(row: Item, path: string): Expr | undefined {
  let at: unknown = row;
  for (const key of path.split(".")) at = (at as Record<string, unknown> | undefined)?.[key];
  return at as Expr | undefined;
}

/** The row with another formula at a place; an empty one takes what may be left out away. */
export function withExpr(row: Item, path: string, text: string): Item {
  const [first, ...rest] = path.split(".");
  const put = (at: unknown, keys: string[]): unknown => {
    if (keys.length === 0) return text;
    const [key, ...more] = keys;
    if (Array.isArray(at)) return at.map((one: unknown, i) => (String(i) === key ? put(one, more) : one));
    return { ...(at as object), [key]: put((at as Record<string, unknown> | undefined)?.[key], more) };
  };
  if (rest.length === 0 && text.trim() === "") {
    const { [first as keyof Item]: _, ...without } = row;
    return without as Item;
  }
  return put(row, [first, ...rest]) as Item;
}
