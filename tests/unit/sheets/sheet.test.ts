/** Sheets laid: lengths, areas and filament by hand-worked sums, orders, keep-outs, and what is refused. */
import fc from "fast-check";
import { laysMaterial } from "@/core/gcode/moves";
import { KeptOut } from "@/core/sheets/keep-out";
import { LaidSheet, laySheet } from "@/core/sheets/lay-sheet";
import { Scope } from "@/core/sheets/scope";
import { buildSheet, layByLayer } from "@/core/sheets/program";
import { emptySheet, exampleSheets } from "@/core/sheets/examples";
import { Item, Sheet } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { ladle, saffron } from "../helpers/demo";
import { laidOf, pathMm, segmentsOf, sheetOf, ways } from "../helpers/sheets";

const own = { hopMm: 0.2, start: { x: 110, y: 10 } };
const laid = (items: object[], change: object = {}) => laidOf(items, change, own);

function lengthOf(laidSheet: LaidSheet): { mm: number; filamentMm: number } {
  const all = segmentsOf(laidSheet);
  return { mm: pathMm(all), filamentMm: all.reduce((sum, { filamentMm }) => sum + filamentMm, 0) };
}

function keptOutOf(keepOut: object[]): KeptOut {
  const scope = Scope.of([]);
  const kept = scope.ok ? KeptOut.of(keepOut as never, scope.value) : scope;
  if (!kept.ok) throw new Error(kept.message);
  return kept.value;
}

// A bead of 0.45 × 0.2 mm: (0.45 − 0.2)·0.2 + π·0.2²/4 = 0.081416 mm²; filament of 1.75 mm: 2.405282 mm².
const PER_MM = 0.0814159 / 2.4052818;

test("a line, a rectangle, an arc and a ring are as long as they are, and take the filament they take: by hand", () => {
  const line = lengthOf(
    laid([
      {
        kind: "line",
        points: [
          ["10", "10"],
          ["50", "10"],
          ["50", "40"],
        ],
      },
    ]),
  );
  expect(line.mm).toBeCloseTo(70, 4);
  expect(line.filamentMm).toBeCloseTo(70 * PER_MM, 4);
  expect(lengthOf(laid([{ kind: "rectangle", centre: ["50", "50"], widthMm: "30", depthMm: "20" }])).mm).toBeCloseTo(
    100,
    4,
  );
  const rounded = lengthOf(
    laid([{ kind: "rectangle", centre: ["50", "50"], widthMm: "30", depthMm: "20", cornerMm: "4" }]),
  );
  // Straight sides 22 and 12 twice, and a whole circle of 4 mm.
  expect(rounded.mm).toBeCloseTo(68 + 2 * Math.PI * 4, 1);
  expect(lengthOf(laid([{ kind: "circle", centre: ["50", "50"], radiusMm: "10" }])).mm).toBeCloseTo(
    2 * Math.PI * 10,
    1,
  );
  expect(lengthOf(laid([{ kind: "arc", centre: ["50", "50"], radiusMm: "10", from: "0", to: "pi/2" }])).mm).toBeCloseTo(
    5 * Math.PI,
    1,
  );
  const through = laid([
    {
      kind: "arc",
      through: [
        ["60", "50"],
        ["50", "60"],
        ["40", "50"],
      ],
    },
  ]);
  expect(lengthOf(through).mm).toBeCloseTo(10 * Math.PI, 1);
  // Six corners on a circle of 10 mm: six sides of 10 mm.
  expect(lengthOf(laid([{ kind: "polygon", centre: ["50", "50"], radiusMm: "10", sides: "6" }])).mm).toBeCloseTo(60, 4);
});

test("a wave is as long as its integral: Simpson's rule over √(x′² + y′²), 10,000 steps", () => {
  const wave = laid([{ kind: "curve", from: "0", to: "1", x: "20+80*t", y: "60+5*sin(2*pi*4*t)", steps: "4000" }]);
  const f = (t: number) => Math.hypot(80, 5 * 8 * Math.PI * Math.cos(8 * Math.PI * t));
  const n = 10_000;
  let sum = f(0) + f(1);
  for (let i = 1; i < n; i++) sum += (i % 2 ? 4 : 2) * f(i / n);
  expect(lengthOf(wave).mm / (sum / (3 * n))).toBeCloseTo(1, 4);
});

test("a climbing wall has its turns and its height", () => {
  const wall = laid([
    { kind: "climb", centre: ["60", "60"], radiusMm: "20", fromMm: "0.2", toMm: "40.2", risePerTurnMm: "0.2" },
  ]);
  const { moves } = wall;
  expect(moves.z[moves.count - 1]).toBeCloseTo(40.2, 3);
  // 200 turns of 2π·20 mm, a hair longer for the rise.
  expect(lengthOf(wall).mm / (200 * 2 * Math.PI * 20)).toBeCloseTo(1, 3);
});

const rings = (order: ("x" | "y" | "z")[]): Item[] => {
  const counts = { x: ["10", "18"], y: ["8", "18"], z: ["25", "0.2"] } as const;
  const ring: Item = { kind: "circle", centre: ["30", "40"], radiusMm: "8" };
  return order.reduceRight<Item[]>(
    (items, along) => [{ kind: "repeat", along, count: counts[along][0], spacingMm: counts[along][1], items }],
    [ring],
  );
};

test("ten by eight rings in twenty-five layers are exactly 2,000 rings, each where it should be", () => {
  const result = laid(rings(["z", "y", "x"]));
  expect(result.strokes).toBe(2000);
  expect(result.tops).toHaveLength(25);
  expect(lengthOf(result).mm / (2000 * 2 * Math.PI * 8)).toBeCloseTo(1, 3);
});

test("the order of repeats: layer by layer is silent, up first strikes with its place, and what mends it is silent again", () => {
  const findingsOf = (sheet: Sheet) => {
    const built = buildSheet({ sheet, printer: ladle, spool: saffron });
    if (!built.ok) throw new Error(built.message);
    return built.value.findings.filter(({ check }) => check === "head-clearance");
  };
  // Few cups, but tall enough that the head, not only the nozzle, would meet what stands.
  const tall = (order: ("x" | "y" | "z")[]) => {
    const text = JSON.stringify(sheetOf(rings(order)));
    return JSON.parse(
      text.replace('"25"', '"60"').replace('"10"', '"3"').replace('"count":"8"', '"count":"2"'),
    ) as Sheet;
  };
  expect(findingsOf(tall(["z", "y", "x"]))).toEqual([]);
  const [strike] = findingsOf(tall(["x", "y", "z"]));
  expect(strike.severity).toBe("stop");
  expect(strike.where).toMatch(/line \d+/);
  const mended = layByLayer(tall(["x", "y", "z"]))!;
  expect(findingsOf(mended)).toEqual([]);
  expect(layByLayer(mended)).toBeNull();
  const [before, after] = [tall(["x", "y", "z"]), mended].map((sheet) => laySheet(sheet, ways));
  if (!before.ok || !after.ok) throw new Error("not laid");
  expect(after.value.strokes).toBe(before.value.strokes);
  expect(lengthOf(after.value).mm).toBeCloseTo(lengthOf(before.value).mm, 1);
});

test("rings that touch are laid without drawing the filament back: each begins where the last one ended", () => {
  // A ring 16 mm wide every 16 mm along X: the nozzle stands where the next begins.
  const touching = laid([
    {
      kind: "repeat",
      along: "x",
      count: "6",
      spacingMm: "16",
      items: [{ kind: "circle", centre: ["30", "30"], radiusMm: "8", faces: "64" }],
    },
  ]);
  const needless = laid(
    [
      {
        kind: "repeat",
        along: "x",
        count: "6",
        spacingMm: "16",
        items: [{ kind: "circle", centre: ["30", "30"], radiusMm: "8", faces: "64" }],
      },
    ],
    { optimise: { nearestStart: false, noNeedlessRetraction: false } },
  );
  const retractions = ({ moves }: LaidSheet) => moves.kind.filter((kind) => kind === 1).length;
  expect(retractions(needless)).toBe(5);
  expect(retractions(touching)).toBeLessThan(5);
});

test("nothing is laid where it is kept out, and everything outside: looked at in 3,000 places", () => {
  const shape = fc.oneof(
    fc.record({
      shape: fc.constant("circle"),
      centre: fc.tuple(fc.integer({ min: 20, max: 80 }), fc.integer({ min: 20, max: 80 })),
      radiusMm: fc.integer({ min: 2, max: 15 }),
    }),
    fc.record({
      shape: fc.constant("rectangle"),
      centre: fc.tuple(fc.integer({ min: 20, max: 80 }), fc.integer({ min: 20, max: 80 })),
      widthMm: fc.integer({ min: 2, max: 30 }),
      depthMm: fc.integer({ min: 2, max: 30 }),
    }),
  );
  fc.assert(
    fc.property(fc.array(shape, { minLength: 1, maxLength: 3 }), (keepOut) => {
      const items = [
        { kind: "curve", from: "0", to: "6*2*pi", angle: "t", radiusMm: "3+t", centre: ["50", "50"], steps: "600" },
      ];
      const whole = lengthOf(laid(items)).mm;
      const cut = laid(items, { keepOut });
      const kept = keptOutOf(keepOut);
      const { moves } = cut;
      for (let i = 1; i < moves.count; i++) {
        if (!laysMaterial(moves.kind[i])) continue;
        for (const share of [0.01, 0.25, 0.5, 0.75, 0.99]) {
          const [x, y] = [
            moves.x[i - 1] + (moves.x[i] - moves.x[i - 1]) * share,
            moves.y[i - 1] + (moves.y[i] - moves.y[i - 1]) * share,
          ];
          if (kept.isInside(x, y, 0.2)) {
            // Places are kept to a thousandth of a millimetre: an edge may be that far off.
            expect(
              kept.isInside(x + 0.002, y, 0.2) &&
                kept.isInside(x - 0.002, y, 0.2) &&
                kept.isInside(x, y + 0.002, 0.2) &&
                kept.isInside(x, y - 0.002, 0.2),
            ).toBe(false);
          }
        }
      }
      // What is missing is what lies inside: the spiral's length within, by sampling it on its own.
      let inside = 0;
      const n = 3000;
      const at = (t: number) => [50 + (3 + t) * Math.cos(t), 50 + (3 + t) * Math.sin(t)];
      for (let i = 0; i < n; i++) {
        const [a, b] = [at((i / n) * 12 * Math.PI), at(((i + 1) / n) * 12 * Math.PI)];
        if (kept.isInside((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, 0.2)) inside += Math.hypot(b[0] - a[0], b[1] - a[1]);
      }
      expect(Math.abs(lengthOf(cut).mm + inside - whole)).toBeLessThan(2.5);
    }),
    { numRuns: 12 },
  );
});

test("any sheet of random figures lays only finite moves, or says why not and where", () => {
  const figure = fc.oneof(
    fc.double({ noNaN: true, min: -1e4, max: 1e4 }).map(String),
    fc.constantFrom("1/t", "sqrt(t-0.5)", "t", "z*10", "exp(50*t)", "layer"),
  );
  fc.assert(
    fc.property(figure, figure, figure, fc.integer({ min: 1, max: 40 }), (x, y, z, count) => {
      const result = laySheet(
        sheetOf([
          {
            kind: "repeat",
            along: "z",
            count: String(count),
            spacingMm: "0.2",
            items: [{ kind: "curve", from: "0", to: "1", x, y, z, steps: "20" }],
          },
        ]),
        ways,
      );
      if (!result.ok) {
        expect(result.field).toMatch(/^items\.0/);
        return;
      }
      const { moves } = result.value;
      for (let i = 0; i < moves.count; i++)
        expect(Number.isFinite(moves.x[i] + moves.y[i] + moves.z[i] + moves.filamentMm[i])).toBe(true);
    }),
  );
});

test("shapes change as they grow, strokes get thinner towards their end, and figures may need one another", () => {
  const grown = laid(
    [
      {
        kind: "repeat",
        along: "z",
        count: "3",
        spacingMm: "h",
        counter: "n",
        items: [{ kind: "circle", centre: ["50", "50"], radiusMm: "r + n" }],
      },
    ],
    {
      figures: [
        { name: "r", value: "2*h*25" },
        { name: "h", value: "0.2" },
      ],
      bead: { widthMm: "0.45", heightMm: "h" },
    },
  );
  expect(lengthOf(grown).mm).toBeCloseTo(2 * Math.PI * (10 + 11 + 12), 0);
  const thinner = laid([
    { kind: "curve", from: "0", to: "1", x: "10+40*t", y: "10", steps: "100", bead: { widthMm: "0.6-0.2*t" } },
  ]);
  const { moves } = thinner;
  const perMm = (i: number) =>
    moves.filamentMm[i] / Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
  expect(perMm(moves.count - 1)).toBeLessThan(perMm(moves.count - 90));
});

test.each([
  [
    {
      figures: [
        { name: "a1", value: "b1" },
        { name: "b1", value: "a1" },
      ],
    },
    "figures.0.value",
    "depend on each other in a circle: a1 → b1 → a1",
  ],
  [{ figures: [{ name: "r", value: "2*radus" }] }, "figures.0.value", "there is no “radus”"],
  [{ figures: [{ name: "r", value: "t" }] }, "figures.0.value", "changes along it"],
])("figures: %j", (change, field, message) => {
  const result = laySheet(sheetOf([], change), ways);
  expect(result).toMatchObject({ ok: false, field, message: expect.stringContaining(message) });
});

test("a wrong formula is named by its row and field; JSON goes round", () => {
  const wrong = sheetOf([
    {
      kind: "repeat",
      along: "x",
      count: "3",
      spacingMm: "10",
      items: [{ kind: "circle", centre: ["30", "30"], radiusMm: "q" }],
    },
  ]);
  expect(laySheet(wrong, ways)).toMatchObject({ ok: false, field: "items.0.items.0.radiusMm" });
  expect(sheetSchema.parse(JSON.parse(JSON.stringify(wrong)))).toEqual(wrong);
  expect(sheetSchema.safeParse({ ...wrong, items: [{ kind: "blob" }] }).success).toBe(false);
});

test.each([emptySheet, ...exampleSheets].map((sheet) => [sheet.name, sheet] as const))(
  "the sheet that ships can be laid without a stop: %s",
  (_, sheet) => {
    expect(sheetSchema.parse(JSON.parse(JSON.stringify(sheet)))).toEqual(sheet);
    const built = buildSheet({ sheet, printer: ladle, spool: saffron });
    if (!built.ok) throw new Error(`${built.field}: ${built.message}`);
    expect(built.value.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
    expect(built.value.figures.filamentMm).toBeGreaterThan(10);
  },
);
