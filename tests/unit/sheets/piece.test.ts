/** A sheet as the piece of a trial: bands meet its heights, settings inside the moves act on it, and strokes may take a band's value. */
import { EventKind, laysMaterial, MoveKind } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { readingOf } from "@/core/machine/reading";
import { exampleSheets } from "@/core/sheets/examples";
import type { Sheet } from "@/core/sheets/sheet";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { buildTrial } from "@/core/trials/build";
import { sheetPieces } from "@/core/trials/sheet-piece";
import { inspectTrial } from "@/core/trials/inspect";
import { layerMmOf, planBeside, planOnPiece } from "@/core/trials/plan-on-piece";
import { bandValues, heightsOf, takesSheet } from "@/core/trials/sheet-piece";
import type { Trial } from "@/core/trials/trial";
import { trialKindKeys, TrialKindKey } from "@/core/trials";
import { ladle, planOf, saffron, trialOfKind } from "../helpers/demo";

const cup = (change: object = {}): Sheet =>
  sheetSchema.parse({
    version: 1,
    name: "A cup",
    figures: [],
    bead: { widthMm: "0.45", heightMm: "0.2" },
    speedMmS: "40",
    items: [
      {
        kind: "repeat",
        along: "z",
        count: "50",
        spacingMm: "0.2",
        items: [
          { kind: "circle", centre: ["110", "110"], radiusMm: "20" },
          { kind: "circle", centre: ["160", "110"], radiusMm: "5" },
        ],
      },
    ],
    ...change,
  });

function trialOn(sheet: Sheet, kind: TrialKindKey = "temperature", change: Partial<Trial> = {}) {
  const trial = trialOfKind(kind, ladle, saffron, change);
  const tops = heightsOf(sheet, ladle, saffron, bandValues(trial, ladle));
  if (!tops.ok) throw new Error(tops.message);
  const layerHeightMm = layerMmOf(tops.value);
  return { ...trial, layerHeightMm, sheet, plan: change.plan ?? planOnPiece(trial.plan, tops.value) };
}

function builtOf(trial: Trial) {
  const input = { trial, printer: ladle, spool: saffron };
  const built = buildTrial(input, sheetPieces);
  return { built, inspected: inspectTrial(input, built), text: new TextDecoder().decode(built.bytes) };
}

const tablesOf = (bytes: Uint8Array) => readProgram(bytes, { reading: readingOf(ladle), asksProgram: false });

test("bands of temperature meet the sheet's heights: each is told where its layers begin, and the proof agrees", () => {
  const trial = trialOn(cup(), "temperature", { plan: planOf([215, 205, 195], 3, 1) });
  const { built, inspected } = builtOf(trial);
  const { events, layers } = tablesOf(built.bytes);
  const heats: [number, number][] = [];
  for (let i = 0; i < events.count; i++) {
    if (events.kind[i] !== EventKind.nozzleTemperature) continue;
    const layer = layers.findIndex(({ firstMove }) => firstMove >= events.move[i]);
    if (layer > 0) heats.push([events.value[i], layer]);
  }
  // Bands begin above 1, 4 and 7 mm: on layers of 0.2 mm these are the 6th, 21st and 36th, from 0 the 5th, 20th, 35th.
  expect(heats).toEqual([
    [215, 5],
    [205, 20],
    [195, 35],
  ]);
  expect(inspected.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  expect(inspected.findings.map(({ check }) => check)).not.toContain("proof-differs");
  expect(built.slices).toHaveLength(50);
});

test("lengths of retraction and speeds along a piece of one's own are those of its bands", () => {
  const plan = {
    baseHeightMm: 0,
    bands: [0.5, 1.5, 2.5].map((retractionLength, i) => ({
      heightMm: 3.4,
      settings: { retractionLength, printSpeed: 20 + 10 * i },
    })),
  };
  const { built } = builtOf(trialOn(cup(), "retraction", { plan }));
  const { moves } = tablesOf(built.bytes);
  const seen = [0, 1, 2].map(() => ({ back: new Set<number>(), speed: new Set<number>() }));
  for (let i = 0; i < moves.count; i++) {
    if (moves.z[i] < 0.1 || moves.z[i] > 10 || moves.layer[i] < 1) continue;
    const band = Math.min(2, Math.floor((moves.layer[i] * 0.2 + 0.1) / 3.4));
    if (moves.kind[i] === MoveKind.retract) seen[band].back.add(Math.round(-moves.filamentMm[i] * 100) / 100);
    if (laysMaterial(moves.kind[i])) seen[band].speed.add(Math.round(moves.feedMmS[i]));
  }
  expect(seen.map(({ speed }) => [...speed])).toEqual([[20], [30], [40]]);
  expect(seen.map(({ back }) => [...back])).toEqual([[0.5], [1.5], [2.5]]);
});

test("strokes take a band's value: a wall grows wider band by band, as its formula says", () => {
  const sheet = cup({
    items: [
      {
        ...cup().items[0],
        items: [{ kind: "circle", centre: ["110", "110"], radiusMm: "20", bead: { widthMm: "value/100 - 1.5" } }],
      },
    ],
  });
  const { built } = builtOf(trialOn(sheet, "temperature", { plan: planOf([200, 210], 5, 0) }));
  const { moves, layerStarts } = built;
  const perMm = (layer: number) => {
    const i = layerStarts[layer + 1] - 2;
    return moves.filamentMm[i] / Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
  };
  // Widths 0.5 and 0.6 at 0.2 mm: (w − h)·h + π·h²/4, by hand 0.0914159 and 0.1114159 mm².
  expect(perMm(40) / perMm(10)).toBeCloseTo(0.1114159 / 0.0914159, 3);
});

test("`band(k)` lays values side by side, and own lines may say them", () => {
  const ladder = sheetSchema.parse({
    ...cup(),
    items: [
      {
        kind: "repeat",
        along: "y",
        count: "bands",
        spacingMm: "6",
        counter: "k",
        items: [
          { kind: "lines", lines: ["M204 P{1000*band(k)}"] },
          {
            kind: "line",
            points: [
              ["80", "80"],
              ["140", "80"],
            ],
            speedMmS: "10*band(k)",
          },
        ],
      },
    ],
    rehearse: { from: "2", to: "5", bands: "4" },
  });
  const { laySheet } = jest.requireActual<typeof import("@/core/sheets/lay-sheet")>("@/core/sheets/lay-sheet");
  const { waysOn } = jest.requireActual<typeof import("@/core/sheets/program")>("@/core/sheets/program");
  const laid = laySheet(ladder, waysOn(ladle, saffron));
  if (!laid.ok) throw new Error(laid.message);
  expect([...laid.value.linesBeforeMove.values()]).toEqual(["M204 P2000", "M204 P3000", "M204 P4000", "M204 P5000"]);
  const { moves } = laid.value;
  const speeds = Array.from({ length: moves.count }, (_, i) => i).filter((i) => laysMaterial(moves.kind[i]));
  expect(speeds.map((i) => moves.feedMmS[i])).toEqual([20, 30, 40, 50]);
  const alone = laySheet({ ...ladder, rehearse: undefined }, waysOn(ladle, saffron));
  expect(alone).toMatchObject({ ok: false, message: expect.stringContaining("rehearse it here") });
});

test("a ladder whose strokes take a trial's values side by side is its piece: every value is there, and nothing is stopped", () => {
  const ladder = exampleSheets.find(({ name }) => name.includes("ladder"))!;
  const speeds = sheetSchema.parse(
    JSON.parse(JSON.stringify(ladder).replace('"bead":{"widthMm":"band(k)"}', '"speedMmS":"band(k)"')),
  );
  const trial = trialOfKind("speed", ladle, saffron, { sheet: speeds });
  const { built, inspected, text } = builtOf({ ...trial, plan: planBeside(trial.plan, "printSpeed", [0.2]) });
  expect(text).toContain("; side by side, speed in mm/s");
  const wanted = trial.plan.bands.map(({ settings }) => Math.round(settings.printSpeed!));
  const { moves } = tablesOf(built.bytes);
  const laidAt = new Set<number>();
  for (let i = 1; i < moves.count; i++)
    if (laysMaterial(moves.kind[i]) && moves.y[i] > 70) laidAt.add(Math.round(moves.feedMmS[i]));
  expect([...laidAt].sort((a, b) => a - b)).toEqual([...wanted].sort((a, b) => a - b));
  expect(inspected.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
});

test("what goes back down to the bed is no piece of a trial, and says what to do", () => {
  const [tower] = cup().items;
  const two = cup({ items: [tower, { kind: "group", items: [tower] }] });
  expect(heightsOf(two, ladle, saffron, [1])).toMatchObject({
    ok: false,
    message: expect.stringContaining("into one repeat upwards"),
  });
  const { inspected } = builtOf({ ...trialOn(cup()), sheet: two });
  expect(inspected.findings.some(({ check, severity }) => check === "not-sayable" && severity === "stop")).toBe(true);
});

test("a climbing wall is cut into layers at its turns, so that bands meet it", () => {
  const [, lamp] = exampleSheets;
  const tops = heightsOf(lamp, ladle, saffron, [1]);
  if (!tops.ok) throw new Error(tops.message);
  // A ring on the bed, and from 0.2 to 60 mm by 0.2 mm a turn 299 turns.
  expect(tops.value).toHaveLength(300);
  const trial = trialOn(lamp, "fan");
  const { inspected } = builtOf(trial);
  expect(inspected.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
});

test("plans are brought to a piece's height: whole layers, first and last value stay", () => {
  const tops = Array.from({ length: 30 }, (_, i) => 0.2 * (i + 1));
  const plan = planOnPiece(planOf([230, 220, 210, 200, 190], 4, 1), tops);
  expect(plan.baseHeightMm).toBe(0);
  expect(plan.bands.map(({ heightMm }) => heightMm)).toEqual([1.2, 1.2, 1.2, 1.2, 1.2]);
  const low = planOnPiece(planOf([230, 220, 210, 200, 190], 4, 1), tops.slice(0, 9));
  expect(low.bands.map(({ settings }) => settings.nozzleTemperature)).toEqual([230, 210, 190]);
});

test("kinds whose values stand on a piece of their own take no sheet", () => {
  const taking = trialKindKeys.filter((kind) => takesSheet(kind));
  expect(taking).toEqual(expect.arrayContaining(["temperature", "fan", "speed", "acceleration", "cornering"]));
  for (const kind of ["bridging", "extrusion", "retraction-matrix"]) expect(taking).not.toContain(kind);
  // What is left has values that differ from band to band, whatever its own piece looks like.
  const tops = Array.from({ length: 60 }, (_, i) => 0.2 * (i + 1));
  for (const kind of taking) {
    const { bands } = planOnPiece(trialOfKind(kind, ladle, saffron).plan, tops);
    expect([kind, bands.length]).toEqual([kind, expect.any(Number)]);
    expect(new Set(bands.map(({ settings }) => JSON.stringify(settings))).size).toBe(bands.length);
    expect(bands.length).toBeGreaterThan(3);
  }
});
