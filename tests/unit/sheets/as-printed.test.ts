/** Sheets as they are printed: own lines and what follows them, what stands on what, ways, and first layers; by an interpreter of the tests' own. */
import { BuiltSheet, buildSheet } from "@/core/sheets/program";
import { interpret } from "../helpers/beads";
import { ladle, saffron } from "../helpers/demo";
import { textOf } from "../helpers/programs";
import { sheetOf } from "../helpers/sheets";

interface Wish {
  items: object[];
  [field: string]: unknown;
}

function built({ items, ...change }: Wish, spool = saffron): BuiltSheet {
  const sheet = buildSheet({ sheet: sheetOf(items, change), printer: ladle, spool });
  if (!sheet.ok) throw new Error(`${sheet.field}: ${sheet.message}`);
  return sheet.value;
}
const findingsOf = (wish: Wish) => built(wish).findings;

describe("own lines", () => {
  const line = (from: [string, string], to: [string, string]) => ({ kind: "line", points: [from, to] });
  const own = (...lines: string[]) => ({ kind: "lines", lines });
  const beads = (items: object[]) => interpret(textOf(built({ items }).bytes)).beads.slice(-2);

  test("and waits in the last row are written", () => {
    const items = [line(["50", "50"], ["150", "50"]), own("M117 Done"), { kind: "dwell", seconds: "5" }];
    const text = textOf(built({ items }).bytes);
    expect(text).toMatch(/M117 Done\nG4 P5000\n; the print ends here/);
  });

  test("are followed by what the next stroke needs: feed, place, height and modes", () => {
    const [first, second] = [line(["120", "110"], ["120", "130"]), line(["120", "130"], ["120", "150"])];
    const plain = beads([first, second]);
    for (const lines of [
      ["G1 F300"],
      ["G1 X40 Y180"],
      ["G91", "G1 Z5"],
      ["G20", "G1 X1"],
      ["M82"],
      ["G0 Z12", "G0 X20"],
    ]) {
      const found = beads([first, own(...lines), second]);
      expect(
        found.map(({ from, to, feedMmMin }) => [...from, ...to, feedMmMin].map((mm) => Number(mm.toFixed(3)))),
      ).toEqual(plain.map(({ from, to, feedMmMin }) => [...from, ...to, feedMmMin].map((mm) => Number(mm.toFixed(3)))));
      found.forEach(({ filamentMm }, i) => expect(filamentMm).toBeCloseTo(plain[i].filamentMm, 4));
    }
  });

  test("that slow the strokes behind them down by a factor are found stroke by stroke", () => {
    const items = [line(["50", "50"], ["150", "50"]), own("M220 S50"), line(["50", "80"], ["150", "80"])];
    expect(findingsOf({ items }).find(({ check }) => check === "proof-differs")?.message).toMatch(/mm\/s; meant are/);
  });
});

describe("what stands on what", () => {
  const ring = (z?: string) => ({ kind: "circle", centre: ["110", "110"], radiusMm: "20", ...(z ? { z } : {}) });
  const up = (count: string, spacingMm: string, items: object[]) => ({
    kind: "repeat",
    along: "z",
    count,
    spacingMm,
    items,
  });
  const saysOf = (items: object[], change: object = {}) =>
    findingsOf({ items, ...change })
      .filter(({ check }) => ["stands-on", "loose-end", "bead-shape"].includes(check))
      .map(({ message }) => message)
      .join(" ");

  test("a stroke in free air, layers further apart than their bead is high, and nearer", () => {
    expect(saysOf([up("10", "0.2", [ring()])])).toBe("");
    expect(saysOf([ring(), { kind: "circle", centre: ["40", "40"], radiusMm: "10", z: "5" }])).toMatch(
      /has nothing under it/,
    );
    expect(saysOf([up("20", "0.5", [ring()])])).toMatch(/has nothing under it/);
    expect(saysOf([up("20", "0.1", [ring()])])).toMatch(/too much material for the gap/);
  });

  test("a wall that climbs stands on its own turns, as high as its bead is or not", () => {
    const climb = (risePerTurnMm: string) => [
      ring(),
      {
        kind: "climb",
        centre: ["110", "110"],
        radiusMm: "20",
        fromMm: "0.2",
        toMm: "4",
        risePerTurnMm,
        facesPerTurn: "60",
      },
    ];
    expect(saysOf(climb("0.2"))).toBe("");
    expect(saysOf(climb("0.1"))).toMatch(/too much material for the gap/);
  });

  test("a strand that is cut in the middle hangs at both of its new ends; one over two posts does not", () => {
    const post = (x: string) => ({
      kind: "rectangle",
      centre: [x, "110"],
      widthMm: "8",
      depthMm: "8",
      fill: { pattern: "lines" },
    });
    const strand = {
      kind: "line",
      points: [
        ["80", "110"],
        ["140", "110"],
      ],
      z: "2.2",
    };
    const items = [up("10", "0.2", [post("84"), post("136")]), strand];
    expect(saysOf(items)).toBe("");
    const keepOut = [{ shape: "circle", centre: ["110", "110"], radiusMm: "8" }];
    expect(saysOf(items, { keepOut })).toMatch(/hang in free air: only one end is held/);
  });

  test("a bead higher than its nozzle lets it be", () => {
    expect(saysOf([ring()], { bead: { widthMm: "0.2", heightMm: "0.4" } })).toMatch(/lays up to 0.32 mm/);
  });

  test("ways over a place that is kept out are lifted, whatever comes next", () => {
    const items = [
      {
        kind: "line",
        points: [
          ["80", "110"],
          ["90", "110"],
        ],
      },
      {
        kind: "line",
        points: [
          ["130", "110"],
          ["140", "110"],
        ],
      },
    ];
    const keepOut = [{ shape: "circle", centre: ["110", "110"], radiusMm: "10" }];
    const lifted = interpret(textOf(built({ items, keepOut }).bytes)).beads.at(-1)!.way;
    expect(lifted.highestMm).toBeGreaterThanOrEqual(0.2 + 0.4 - 1e-6);
  });

  test("a ring that rises along its way rises from its beginning in every layer", () => {
    const rising = { kind: "circle", centre: ["110", "110"], radiusMm: "20", faces: "20", z: "z + 0.2*t" };
    const { beads } = interpret(textOf(built({ items: [up("3", "0.2", [rising])] }).bytes));
    for (const { from, to } of beads.slice(-60)) expect(to[2]).toBeGreaterThan(from[2] - 1e-6);
  });

  test("first layers are laid as the spool wants them: the fan comes in with the layer it says", () => {
    const late = { ...saffron, fanFromLayer: 3 };
    const text = textOf(built({ items: [up("5", "0.2", [ring()])] }, late).bytes);
    const laid = interpret(text).beads.filter(({ to: [x, y] }) => Math.abs(Math.hypot(x - 110, y - 110) - 20) < 0.1);
    expect(new Set(laid.map(({ to }) => to[2])).size).toBe(5);
    for (const { to, fan } of laid) expect([to[2], fan > 0]).toEqual([to[2], to[2] > 0.5]);
  });
});

test("of more than can be looked at it is said how much was", () => {
  const rings = {
    kind: "repeat",
    along: "x",
    count: "200",
    spacingMm: "0.45",
    items: [
      {
        kind: "line",
        points: [
          ["60", "20"],
          ["60", "200"],
        ],
      },
    ],
  };
  const items = [{ kind: "repeat", along: "z", count: "8", spacingMm: "0.2", items: [rings] }];
  const said = findingsOf({ items }).find(({ check }) => check === "beads-beside");
  expect(said).toMatchObject({ severity: "note", message: expect.stringMatching(/looked at in \d+ of 8 layers/) });
});
