/** How strokes are laid: fills, words, beginnings and directions, beads by filament, ways that are saved, what is gone round. */
import ClipperLib from "clipper-lib";
import fc from "fast-check";
import { MoveKind } from "@/core/gcode/moves";
import { beadAreaMm2, beadWidthMm } from "@/core/material/bead";
import { LaidSheet, laySheet } from "@/core/sheets/lay-sheet";
import { strokesOf, unknownLetters } from "@/core/sheets/letters";
import { exampleSheets } from "@/core/sheets/examples";
import type { Item } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { laidOf, LaidSegment, pathMm, segmentsOf, sheetOf, ways } from "../helpers/sheets";

const filamentMm3 = (all: readonly LaidSegment[]) =>
  all.reduce((sum, one) => sum + one.filamentMm, 0) * ((Math.PI * 1.75 ** 2) / 4);
const retractions = ({ moves }: LaidSheet) => moves.kind.filter((kind) => kind === MoveKind.retract).length;
const travelMm = ({ moves }: LaidSheet) => {
  let sum = 0;
  for (let i = 1; i < moves.count; i++)
    if (moves.kind[i] === MoveKind.travel) sum += Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
  return sum;
};

test.each(["lines", "rings"])(
  "a solid fill of %s holds the volume of what it fills: area × height, by hand",
  (pattern) => {
    const square = { kind: "rectangle", centre: ["50", "50"], widthMm: "30", depthMm: "20" };
    const filled = segmentsOf(laidOf([{ ...square, fill: { pattern } }]));
    const kinds = new Set(filled.map(({ kind }) => kind));
    expect(kinds).toEqual(new Set([MoveKind.outerWall, MoveKind.solid]));
    // The outline's bead reaches half a spacing beyond its line: (30 + s)·(20 + s)·0.2 mm³ with s = area / height.
    const spacing = beadAreaMm2(0.45, 0.2) / 0.2;
    expect(filamentMm3(filled) / ((30 + spacing) * (20 + spacing) * 0.2)).toBeGreaterThan(0.95);
    expect(filamentMm3(filled) / ((30 + spacing) * (20 + spacing) * 0.2)).toBeLessThan(1.03);
  },
);

test("a sparse fill has its share, and lines run in their direction", () => {
  const of = (percent: string) =>
    segmentsOf(
      laidOf([
        { kind: "circle", centre: ["50", "50"], radiusMm: "20", fill: { pattern: "lines", angle: "30 deg", percent } },
      ]),
    ).filter(({ kind }) => kind !== MoveKind.outerWall);
  const [solid, quarter] = [of("100"), of("25")];
  expect(pathMm(quarter) / pathMm(solid)).toBeCloseTo(0.25, 1);
  for (const { x0, y0, x1, y1 } of quarter)
    expect(Math.abs(Math.tan(Math.atan2(y1 - y0, x1 - x0)))).toBeCloseTo(Math.tan(Math.PI / 6), 1);
  // Nothing of it comes nearer to the outline than a bead's spacing.
  for (const { x0, y0 } of solid) expect(Math.hypot(x0 - 50, y0 - 50)).toBeLessThan(20 - 0.39);
});

test("polygons against a general geometry library: the area of what is laid, and n/2·r²·sin(2π/n)", () => {
  for (const sides of [3, 5, 8, 17]) {
    const all = segmentsOf(
      laidOf([{ kind: "polygon", centre: ["50", "50"], radiusMm: "12", sides: String(sides), from: "0.3" }]),
    );
    const scale = 10_000;
    const path = all.map(({ x0, y0 }) => ({ X: Math.round(x0 * scale), Y: Math.round(y0 * scale) }));
    // The library's types leave its areas out.
    const { Area } = ClipperLib.Clipper as unknown as { Area(path: { X: number; Y: number }[]): number };
    const areaMm2 = Math.abs(Area(path)) / scale ** 2;
    expect(areaMm2).toBeCloseTo((sides / 2) * 144 * Math.sin((2 * Math.PI) / sides), 1);
    expect(all).toHaveLength(sides);
  }
});

test("words: an L of 8 mm is 8 and 4.4 mm long; small letters are capitals; unknown signs are refused by name", () => {
  const word = (text: string) => ({ kind: "word", text, at: ["50", "50"], sizeMm: "8" });
  expect(pathMm(segmentsOf(laidOf([word("L")])))).toBeCloseTo(12.4, 3);
  expect(strokesOf("cuchara", 8)).toEqual(strokesOf("CUCHARA", 8));
  // T is two strokes: between them nothing is laid.
  const bar = segmentsOf(laidOf([word("T")]));
  expect(pathMm(bar)).toBeCloseTo(5.6 + 8, 3);
  expect(unknownLetters("A{B}A")).toBe("{ }");
  expect(sheetSchema.safeParse({ ...sheetOf([]), items: [word("Ω")] }).error?.issues[0].message).toContain(
    "no strokes for Ω",
  );
});

test("every letter that can be laid stays within its height and is finite", () => {
  for (const sign of "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789.,-+!?/") {
    const points = strokesOf(sign, 10).flat();
    expect(points.length).toBeGreaterThan(1);
    for (const { x, y } of points) {
      expect(y).toBeGreaterThanOrEqual(-2);
      expect(y).toBeLessThanOrEqual(10);
      expect(x).toBeGreaterThanOrEqual(0);
    }
  }
});

test("a ring begins where it is told to, and runs the way it is told to", () => {
  const circle = { kind: "circle", centre: ["50", "50"], radiusMm: "10", faces: "8" };
  const first = (change: object) => segmentsOf(laidOf([{ ...circle, ...change }]))[0];
  // The nozzle comes from 0, 0: the nearest corner is the one at 225°.
  expect(first({})).toMatchObject({
    x0: expect.closeTo(50 - 10 / Math.SQRT2, 3),
    y0: expect.closeTo(50 - 10 / Math.SQRT2, 3),
  });
  expect(first({ start: "0.25" })).toMatchObject({ x0: expect.closeTo(50, 3), y0: expect.closeTo(60, 3) });
  expect(first({ start: "0" }).y1).toBeGreaterThan(50);
  expect(first({ start: "0", reverse: true }).y1).toBeLessThan(50);
});

test("filament by the mm is fed as it says, and so is a retraction by the mm", () => {
  const line = {
    kind: "line",
    points: [
      ["10", "10"],
      ["50", "10"],
    ],
  };
  const [fed] = segmentsOf(laidOf([{ ...line, bead: { filamentPerMm: "0.04" } }]));
  expect(fed.filamentMm).toBeCloseTo(40 * 0.04, 4);
  const far = {
    kind: "line",
    points: [
      ["150", "10"],
      ["190", "10"],
    ],
    retract: "2.5",
  };
  const { moves } = laidOf([line, far]);
  const back = [...moves.filamentMm].filter((_, i) => moves.kind[i] === MoveKind.retract);
  expect(back).toEqual([-2.5]);
  expect(laySheet(sheetOf([line, { ...far, retract: "99" }]), ways)).toMatchObject({
    ok: false,
    field: "items.1.retract",
  });
});

test("a bead's width and its cross-section are one another's inverse", () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.1, max: 3, noNaN: true }),
      fc.double({ min: 0.05, max: 1, noNaN: true }),
      (width, height) => {
        expect(beadWidthMm(beadAreaMm2(width, height), height)).toBeCloseTo(width, 6);
      },
    ),
  );
});

const lines = (optimise?: object) =>
  laidOf(
    [
      {
        kind: "repeat",
        along: "y",
        count: "12",
        spacingMm: "2",
        items: [
          {
            kind: "line",
            points: [
              ["20", "20"],
              ["100", "20"],
            ],
          },
        ],
      },
    ],
    optimise ? { optimise } : {},
  );

test("copies are laid to and fro: the ways between them are as short as they can be, and each can be switched off", () => {
  const off = { nearestCopy: false, nearestStart: false, noNeedlessRetraction: false };
  // To and fro there are eleven ways of 2 mm, besides the one to the first; one way always, eleven of 80.02 mm.
  const firstMm = Math.hypot(20, 20);
  expect(travelMm(lines())).toBeCloseTo(firstMm + 11 * 2, 3);
  expect(travelMm(lines(off))).toBeCloseTo(firstMm + 11 * Math.hypot(80, 2), 3);
  expect(pathMm(segmentsOf(lines()))).toBeCloseTo(12 * 80, 3);
});

test("a way over what is laid needs no retraction; one across open bed does", () => {
  const rail = {
    kind: "line",
    points: [
      ["20", "20"],
      ["100", "20"],
    ],
    bead: { widthMm: "0.8" },
  };
  // Back along the rail, and on from its beginning.
  const along = {
    kind: "line",
    points: [
      ["20", "20"],
      ["20", "60"],
    ],
    reverse: false,
  };
  const away = {
    kind: "line",
    points: [
      ["20", "90"],
      ["20", "130"],
    ],
    reverse: false,
  };
  expect(retractions(laidOf([rail, along]))).toBe(0);
  expect(retractions(laidOf([rail, away]))).toBe(1);
  expect(retractions(laidOf([rail, along], { optimise: { noNeedlessRetraction: false } }))).toBe(1);
});

test("rings that touch are gone along to where the next one begins: no retraction in a whole row", () => {
  const row = (gap: string) =>
    laidOf([
      {
        kind: "repeat",
        along: "x",
        count: "6",
        spacingMm: gap,
        items: [{ kind: "circle", centre: ["30", "30"], radiusMm: "8", faces: "64" }],
      },
    ]);
  expect(retractions(row("16.4"))).toBe(0);
  expect(retractions(row("30"))).toBe(5);
  // What is gone over is on the rings themselves.
  const { moves } = row("16.4");
  for (let i = 5; i < moves.count; i++) {
    if (moves.kind[i] !== MoveKind.travel) continue;
    const offs = [0, 1, 2, 3, 4, 5].map((n) => Math.abs(Math.hypot(moves.x[i] - 30 - 16.4 * n, moves.y[i] - 30) - 8));
    expect(Math.min(...offs)).toBeLessThan(0.05);
  }
});

test("the order of repeats lays the same beads, each once, in another order", () => {
  const spans = { x: ["3", "20"], y: ["2", "20"], z: ["4", "0.2"] } as const;
  const nested = (order: ("x" | "y" | "z")[]): Item[] =>
    order.reduceRight<Item[]>(
      (items, along) => [{ kind: "repeat", along, count: spans[along][0], spacingMm: spans[along][1], items }],
      [{ kind: "circle", centre: ["30", "30"], radiusMm: "5", faces: "12" }],
    );
  const beads = (order: ("x" | "y" | "z")[]) =>
    segmentsOf(laidOf(nested(order), { optimise: { nearestStart: false, nearestCopy: false } }))
      .map(({ x0, y0, z0, x1, y1, z1, filamentMm }) =>
        [x0, y0, z0, x1, y1, z1, filamentMm].map((v) => v.toFixed(3)).join(),
      )
      .sort();
  const first = beads(["z", "y", "x"]);
  expect(first).toHaveLength(3 * 2 * 4 * 12);
  for (const order of [
    ["x", "y", "z"],
    ["y", "z", "x"],
    ["x", "z", "y"],
  ] as ("x" | "y" | "z")[][])
    expect(beads(order)).toEqual(first);
});

test("what is kept out is crossed lifted and drawn back, or gone round along its edge", () => {
  const line = {
    kind: "line",
    points: [
      ["20", "50"],
      ["80", "50"],
    ],
    reverse: false,
  };
  const hole = { shape: "circle", centre: ["50", "50"], radiusMm: "10" };
  const crossed = laidOf([line], { keepOut: [hole] });
  expect(pathMm(segmentsOf(crossed))).toBeCloseTo(40, 3);
  expect(crossed.gaps).toBe(1);
  expect(retractions(crossed)).toBe(1);
  const { moves } = crossed;
  const lifted = [...moves.z].filter((z, i) => moves.kind[i] === MoveKind.travel && z > 0.55);
  expect(lifted.length).toBeGreaterThan(0);
  const round = laidOf([line], { keepOut: [{ ...hole, around: true }] });
  // Half the circle's edge in place of its diameter.
  expect(pathMm(segmentsOf(round))).toBeCloseTo(40 + Math.PI * 10, 1);
  expect(retractions(round)).toBe(0);
  for (const { x1, y1 } of segmentsOf(round)) expect(Math.hypot(x1 - 50, y1 - 50)).toBeGreaterThan(9.999);
  const square = { shape: "rectangle", centre: ["50", "45"], widthMm: "20", depthMm: "20", around: true };
  // The shorter way round a rectangle that reaches from 35 to 55: up 5, along 20, down 5.
  expect(pathMm(segmentsOf(laidOf([line], { keepOut: [square] })))).toBeCloseTo(40 + 30, 3);
});

test("kept out by formula, over a span of heights, switched off", () => {
  const tower = {
    kind: "repeat",
    along: "z",
    count: "10",
    spacingMm: "0.2",
    items: [
      {
        kind: "line",
        points: [
          ["20", "50"],
          ["80", "50"],
        ],
      },
    ],
  };
  const figures = [{ name: "hole", value: "6" }];
  const path = (keepOut: object) => pathMm(segmentsOf(laidOf([tower], { figures, keepOut: [keepOut] })));
  const at = { shape: "circle", centre: ["50", "50"], radiusMm: "hole" };
  expect(path(at)).toBeCloseTo(10 * (60 - 12), 2);
  // Layers at 0.6, 0.8 and 1 mm.
  expect(path({ ...at, fromMm: "0.5", toMm: "0.2*5" })).toBeCloseTo(600 - 3 * 12, 2);
  expect(path({ ...at, off: true })).toBeCloseTo(600, 2);
  expect(laySheet(sheetOf([tower], { keepOut: [{ ...at, radiusMm: "1/0" }] }), ways)).toMatchObject({
    ok: false,
    field: "keepOut.0.radiusMm",
  });
});

test("round a place and mirrored: by the rotation and the reflection themselves", () => {
  const line = {
    kind: "line",
    points: [
      ["60", "50"],
      ["70", "50"],
    ],
    reverse: false,
  };
  const round = segmentsOf(
    laidOf([{ kind: "repeat", along: "round", count: "4", centre: ["50", "50"], items: [line] }], {
      optimise: { nearestCopy: false },
    }),
  );
  expect(round.map(({ x1, y1 }) => [Math.round(x1), Math.round(y1)])).toEqual([
    [70, 50],
    [50, 70],
    [30, 50],
    [50, 30],
  ]);
  const mirrored = segmentsOf(
    laidOf([{ kind: "repeat", along: "mirror", centre: ["50", "50"], items: [line] }], {
      optimise: { nearestCopy: false },
    }),
  );
  expect(mirrored.map(({ x0, x1 }) => [Math.round(x0), Math.round(x1)])).toEqual([
    [60, 70],
    [40, 30],
  ]);
});

test("the outline of the HTTP contract is laid in the order written", () => {
  const sheet = sheetSchema.parse({
    version: 1,
    name: "…",
    figures: [{ name: "r", value: "12", unit: "mm", low: 5, high: 30 }],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "25",
        spacingMm: "0.2",
        counter: "n",
        items: [
          {
            kind: "repeat",
            along: "x",
            count: "10",
            spacingMm: "22",
            items: [{ kind: "circle", centre: ["30", "30"], radiusMm: "r" }],
          },
        ],
      },
      { kind: "curve", from: "0", to: "1", x: "20+80*t", y: "60+5*sin(2*pi*4*t)", steps: "200" },
      {
        kind: "line",
        points: [
          ["10", "10"],
          ["50", "10"],
        ],
      },
      {
        kind: "climb",
        centre: ["60", "60"],
        radiusMm: "20+2*sin(6*a)",
        fromMm: "0.2",
        toMm: "40",
        risePerTurnMm: "0.2",
      },
    ],
    keepOut: [{ shape: "circle", centre: [30, 30], radiusMm: 4, fromMm: 2, toMm: 6 }],
  });
  const result = laySheet(sheet, ways);
  if (!result.ok) throw new Error(result.message);
  expect(result.value.strokes).toBe(250 + 3);
  // The nozzle climbs 39.8 mm at 0.2 mm a turn.
  expect(result.value.tops.filter((top) => top > 5.01)).toHaveLength(Math.round((40 - 5) / 0.2));
});

test("a watch may stop a laying that takes too long", () => {
  const heard: number[] = [];
  const sheet = sheetOf([{ kind: "curve", from: "0", to: "1", x: "t*50", y: "t*50", steps: "400000" }]);
  const stopped = laySheet(sheet, ways, null, (moves) => {
    heard.push(moves);
    return heard.length < 3;
  });
  expect(stopped).toMatchObject({ ok: false, message: "It was stopped." });
  expect(heard).toHaveLength(3);
});

test("what would never end is refused: copies of nothing, curves that stand still, fills of hairs, rows within rows within rows", () => {
  const many = (items: object[], depth: number): object =>
    depth === 0
      ? { kind: "group", items }
      : { kind: "repeat", along: "x", count: "100000", spacingMm: "0", items: [many(items, depth - 1)] };
  expect(laySheet(sheetOf([many([], 3)]), ways)).toMatchObject({
    ok: false,
    message: expect.stringContaining("copies"),
  });
  const still = { kind: "curve", from: "0", to: "1", x: "50", y: "50", steps: "500000" };
  const often = { kind: "repeat", along: "x", count: "1000", spacingMm: "0", items: [still] };
  expect(laySheet(sheetOf([often]), ways)).toMatchObject({ ok: false, message: expect.stringContaining("points") });
  const hairs = {
    kind: "circle",
    centre: ["50", "50"],
    radiusMm: "40",
    fill: { pattern: "lines" },
    bead: { widthMm: "0.001", heightMm: "0.001" },
  };
  expect(laySheet(sheetOf([hairs]), ways)).toMatchObject({ ok: false, field: "items.0.fill" });
  const deep: object = JSON.parse(`${'{"kind":"group","items":['.repeat(50_000)}${"]}".repeat(50_000)}`) as object;
  expect(sheetSchema.safeParse({ ...sheetOf([]), items: [deep] }).error?.issues[0].message).toContain("12 deep");
});

test("a ring that is left by a travel of one's own is not gone over as if the nozzle stood on it", () => {
  const ring = { kind: "circle", centre: ["50", "50"], radiusMm: "10", faces: "12" };
  const beside = { ...ring, centre: ["70.4", "50"] };
  const { moves } = laidOf([ring, { kind: "travel", to: ["50", "120"] }, beside]);
  const left = [...moves.y].findIndex((y) => y > 119);
  // From there straight to the next ring: no corner of the first is visited again.
  for (let i = left + 1; i < moves.count; i++)
    expect(Math.hypot(moves.x[i] - 50, moves.y[i] - 50)).toBeGreaterThan(10.01);
});

test("a retraction that is asked for is the stroke's: the lines of its fill are laid as their ways decide", () => {
  const square = { kind: "rectangle", centre: ["50", "50"], widthMm: "20", depthMm: "20", retract: true };
  const far = { ...square, centre: ["90", "50"], fill: { pattern: "rings" } };
  expect(retractions(laidOf([square, far]))).toBe(1);
});

test("a climbing wall grows out of a ring: nothing is laid higher over the bed than its bead is", () => {
  const lamp = exampleSheets.find(({ name }) => name.includes("lamp"))!;
  const result = laySheet(lamp, ways);
  if (!result.ok) throw new Error(result.message);
  const [ring] = segmentsOf(result.value).filter(({ z0, z1 }) => z0 === z1);
  const climbs = segmentsOf(result.value).filter(({ z1, z0 }) => z1 > z0 && z1 < 0.4);
  const perMm = ({ x0, y0, x1, y1, filamentMm }: LaidSegment) => filamentMm / Math.hypot(x1 - x0, y1 - y0);
  expect(ring.z0).toBeCloseTo(0.2, 6);
  // The first turn fills the wedge between the ring and itself: its flow grows with its height over it.
  const early = climbs.find(({ z1 }) => z1 > 0.25)!;
  expect(perMm(early) / perMm(ring)).toBeCloseTo(0.25, 1);
});
