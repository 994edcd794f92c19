/** What the page does with rows, places and formulas while they are typed. */
import fc from "fast-check";
import { readPoints, sayPoints } from "@/core/sheets/points";
import { namesAt, previewOf } from "@/core/sheets/preview";
import { allRows, dropRow, moveRow, rowAt } from "@/core/sheets/rows";
import type { Item, Sheet } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { layerOfMove, shadesOf } from "@/ui/paths/paint";
import { placeAt } from "@/ui/paths/play";
import { exprAt, fieldsOf, rowKinds, rowSays, rowTitle, withExpr } from "@/ui/paths/row-kinds";
import { fieldsWithin } from "@/ui/paths/sheet-picture";

const ring = (radiusMm: string): Item => ({ kind: "circle", centre: ["0", "0"], radiusMm });
const items: Item[] = [
  ring("1"),
  {
    kind: "repeat",
    along: "x",
    count: "3",
    spacingMm: "9",
    counter: "k",
    items: [ring("2"), { kind: "group", items: [ring("3")] }],
  },
  ring("4"),
];
const radii = (all: readonly Item[]): string[] =>
  all.flatMap((item) => ("items" in item ? radii(item.items) : "radiusMm" in item ? [String(item.radiusMm)] : []));

test("a row is dropped before, behind or into another", () => {
  expect(radii(moveRow(items, [2], [0], "before"))).toEqual(["4", "1", "2", "3"]);
  expect(radii(moveRow(items, [0], [2], "after"))).toEqual(["2", "3", "4", "1"]);
  expect(radii(moveRow(items, [0], [1], "into"))).toEqual(["2", "3", "1", "4"]);
  expect(radii(moveRow(items, [1, 1, 0], [0], "before"))).toEqual(["3", "1", "2", "4"]);
  expect(radii(moveRow(items, [0], [1, 0], "before"))).toEqual(["1", "2", "3", "4"]);
});

test("repeats round one another change their order when one is dropped on the other", () => {
  const nested: Item[] = [
    {
      kind: "repeat",
      along: "x",
      count: "2",
      spacingMm: "9",
      items: [
        {
          kind: "repeat",
          along: "y",
          count: "3",
          spacingMm: "9",
          items: [{ kind: "repeat", along: "z", count: "4", spacingMm: "0.2", items: [ring("1")] }],
        },
      ],
    },
  ];
  const order = (all: readonly Item[]): string =>
    all.map((item) => (item.kind === "repeat" ? item.along + order(item.items) : "o")).join("");
  expect(order(nested)).toBe("xyzo");
  expect(order(dropRow(nested, [0, 0, 0], [0], "before"))).toBe("zxyo");
  expect(order(dropRow(nested, [0], [0, 0, 0], "after"))).toBe("zxyo");
  expect(order(dropRow(nested, [0, 0], [0], "before"))).toBe("yxzo");
  // Where others lie beside it, it is taken out alone.
  const [first] = nested;
  const beside: Item[] = [{ ...first, items: [...(first as { items: Item[] }).items, ring("2")] } as Item];
  expect(order(dropRow(beside, [0, 0], [0], "before"))).toBe("yzoxo");
});

test("wherever a row is dropped, every row is there once, and none lies in itself", () => {
  const paths = allRows(items);
  fc.assert(
    fc.property(
      fc.constantFrom(...paths),
      fc.constantFrom(...paths),
      fc.constantFrom("before", "after", "into"),
      (from, to, place) => {
        const moved = moveRow(items, from, to, place as "before");
        expect(radii(moved).sort()).toEqual(["1", "2", "3", "4"]);
        expect(allRows(moved)).toHaveLength(paths.length);
        const row = rowAt(items, from);
        expect(allRows(moved).filter((path) => rowAt(moved, path) === row)).toHaveLength(1);
      },
    ),
  );
});

test.each([
  [
    "1,2\n3,4",
    [
      ["1", "2"],
      ["3", "4"],
    ],
  ],
  [
    "x;y\r\n1;2\r\n\r\n3;4\r\n",
    [
      ["1", "2"],
      ["3", "4"],
    ],
  ],
  [
    "10\t20\n30\t40\n",
    [
      ["10", "20"],
      ["30", "40"],
    ],
  ],
  [
    '"1","2"\n"3","4"',
    [
      ["1", "2"],
      ["3", "4"],
    ],
  ],
  [
    "max(a, 3), r\n2*r, min(1, 2)",
    [
      ["max(a, 3)", "r"],
      ["2*r", "min(1, 2)"],
    ],
  ],
  // A third column, a height, say, is passed over.
  [
    "1,2,0.2\n3,4,0.2",
    [
      ["1", "2"],
      ["3", "4"],
    ],
  ],
])("places are read as tables are pasted: %j", (text, places) => {
  expect(readPoints(text)).toEqual({ ok: true, value: places });
});

test("what is no place is refused with its line, and places go round as text", () => {
  expect(readPoints("1,2\n3\n")).toMatchObject({ ok: false, message: expect.stringContaining("Line 2, “3”") });
  expect(readPoints("1,2")).toMatchObject({ ok: false, message: expect.stringContaining("2 are needed") });
  const places: [string, string][] = [
    ["1", "r + 2"],
    ["max(1, 2)", "0"],
  ];
  expect(readPoints(sayPoints(places))).toEqual({ ok: true, value: places });
});

const sheet: Sheet = sheetSchema.parse({
  version: 1,
  name: "A sheet",
  figures: [{ name: "r", value: "8", unit: "mm" }],
  bead: { widthMm: "0.45", heightMm: "0.2" },
  speedMmS: "40",
  items: [
    { kind: "repeat", along: "x", count: "5", spacingMm: "9", counter: "k", items: [ring("2")] },
    { kind: "climb", centre: ["0", "0"], radiusMm: "z", fromMm: "2", toMm: "10", risePerTurnMm: "0.2" },
  ],
});

test.each([
  ["2*r + 0.4", [0, 0], 16.4, 16.4],
  ["r + k", [0, 0], 8, 12],
  ["10*t", [0, 0], 0, 10],
  ["z", [1], 2, 10],
  ["band(0)", [0, 0], 1, 1],
] as const)("what a formula comes to while it is typed: %s", (text, path, least, most) => {
  const seen = previewOf(sheet, path, text);
  if (!seen.ok) throw new Error(seen.message);
  expect(seen.value.least).toBeCloseTo(least, 9);
  expect(seen.value.most).toBeCloseTo(most, 9);
});

test("names that a formula may use are those of its place", () => {
  const names = (path: readonly number[] | null) => namesAt(sheet, path).map(({ name }) => name);
  expect(names([0, 0])).toEqual(expect.arrayContaining(["r", "k", "t", "z", "pi", "sin", "band"]));
  expect(names([1])).not.toContain("k");
  expect(names(null)).not.toContain("t");
  expect(previewOf(sheet, [1], "k").ok).toBe(false);
});

test("every kind of row has a name, fields that are there, and a sentence; each can be stored", () => {
  for (const [kind, { fresh }] of Object.entries(rowKinds)) {
    const row = fresh();
    expect(sheetSchema.safeParse({ ...sheet, items: [row] }).error?.issues ?? []).toEqual([]);
    expect(rowTitle(row).length).toBeGreaterThan(1);
    expect(typeof rowSays(row)).toBe("string");
    for (const field of fieldsOf(row))
      if (!field.isOptional) expect([kind, field.path, exprAt(row, field.path)]).not.toContain(undefined);
    for (const way of rowKinds[row.kind].ways ?? []) {
      const other = way.make(row);
      expect(way.isUsed(other)).toBe(true);
      expect(sheetSchema.safeParse({ ...sheet, items: [other] }).success).toBe(true);
    }
  }
});

test("a field that is emptied is left out where it may be, down to what held it", () => {
  const row = ring("5");
  const wide = { path: "bead.widthMm", label: "bead wide", isOptional: true };
  const with1 = withExpr(row, wide, "0.6");
  expect(with1).toMatchObject({ bead: { widthMm: "0.6" } });
  expect(withExpr(with1, wide, "")).toEqual(row);
  expect(withExpr(row, { path: "radiusMm", label: "radius" }, "")).toMatchObject({ radiusMm: "" });
  expect(withExpr(row, { path: "centre.1", label: "Y" }, "7")).toMatchObject({ centre: ["0", "7"] });
});

test("where the nozzle is at a time, and in which layer", () => {
  const endS = Float64Array.from([1, 3, 3, 7]);
  expect(placeAt({ endS }, 0)).toEqual({ move: 0, share: 0 });
  expect(placeAt({ endS }, 2)).toEqual({ move: 1, share: 0.5 });
  expect(placeAt({ endS }, 5)).toEqual({ move: 3, share: 0.5 });
  expect(placeAt({ endS }, 99)).toEqual({ move: 3, share: 1 });
  expect([0, 4, 5, 9, 12].map((move) => layerOfMove([0, 5, 9, 12], move))).toEqual([0, 0, 1, 2, 2]);
});

test("heights are told apart by shades that follow one another and end where their layers do", () => {
  const layerStarts = Array.from({ length: 101 }, (_, i) => i * 10);
  const shade = shadesOf({ laid: { layerStarts } } as never, "white", "black", 1);
  let at = 0;
  const colours: string[] = [];
  while (at < 1000) {
    const { colour, until } = shade(at);
    expect(until).toBeGreaterThan(at);
    colours.push(colour);
    at = until;
  }
  expect(at).toBe(1000);
  expect(new Set(colours).size).toBe(colours.length);
  expect(colours.length).toBeLessThanOrEqual(24);
});

test("a repeat that is lit lights all rows in it, and no row that only begins alike", () => {
  expect(fieldsWithin(["items.1", "items.1.items.0", "items.10"], "items.1")).toEqual([true, true, false]);
});
