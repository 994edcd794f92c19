/** Bridges laid with care, and outer walls finer than the inside: on whole pieces, held against figures of their own. */
import { Edit, editsSchema } from "@/core/edits";
import { layersToCool } from "@/core/edits/kinds/bridges";
import { laysMaterial } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { findBridges } from "@/core/laid/over-air";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf, Printer } from "@/core/shelf/printer";
import { buildTrial } from "@/core/trials/build";
import { conventions, pieceText } from "../helpers/conventions";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { edited, tryEdits } from "../helpers/edits";
import { bytesOf, textOf } from "../helpers/programs";

const parsed = (edit: object): Edit[] => editsSchema.parse([edit]);

const tower = textOf(buildTrial({ trial: trialOfKind("fan", ladle, saffron), printer: ladle, spool: saffron }).bytes);
const wish = {
  kind: "bridges",
  cooler: 20,
  layersBefore: 2,
  layers: [
    { feedPercent: 50, flowPercent: 90, fan: 100 },
    { feedPercent: 80, flowPercent: 100, fan: 60 },
  ],
  only: "strands",
};

test("the nozzle is cooler from two layers before each bridge, the strands are slower and leaner, and all of it ends", () => {
  const before = readProgram(tower);
  const found = findBridges(before);
  expect(found.length).toBeGreaterThan(2);
  const { after, tables, mismatches } = edited(tower, parsed(wish));
  expect(mismatches).toEqual([]);
  // The same moves, as many and at the same places: only feed and filament of the strands differ.
  expect(tables.moves.count).toBeGreaterThanOrEqual(before.moves.count);
  const own = new Map<string, { feed: number; filament: number }>();
  const keyOf = ({ x, y, z }: typeof tables.moves, i: number) => `${x[i - 1]} ${y[i - 1]} ${x[i]} ${y[i]} ${z[i]}`;
  const { moves } = tables;
  for (let i = 1; i < moves.count; i++)
    own.set(keyOf(moves, i), { feed: moves.feedMmS[i], filament: moves.filamentMm[i] });
  for (const { stretches } of found) {
    for (const { firstMove, lastMove } of stretches) {
      for (let i = firstMove; i <= lastMove; i++) {
        const now = own.get(keyOf(before.moves, i))!;
        expect(now.feed / before.moves.feedMmS[i]).toBeCloseTo(0.5, 2);
        expect(now.filament / before.moves.filamentMm[i]).toBeCloseTo(0.9, 2);
      }
    }
  }
  const heats = after.split("\n").filter((line) => /^M10[49] .*cuchara/.test(line));
  const layersWith = new Set(found.map(({ layer }) => layer));
  expect(heats.filter((line) => line.includes("cooler")).length).toBe(layersWith.size);
  expect(heats.filter((line) => line.includes("back to its own")).length).toBe(layersWith.size);
  expect(after.match(/fan over air/g)!.length).toBeGreaterThanOrEqual(layersWith.size);
});

test("a bridge that is skipped stays as it is; a line at which none begins is refused, and so is a file without any", () => {
  const found = findBridges(readProgram(tower));
  const [first, ...others] = found.map(({ line }) => line + 1);
  const { after } = edited(tower, parsed({ ...wish, skip: others }));
  const treated = found[0].layer;
  for (const line of after.split("\n").filter((one) => one.includes("fan over air"))) expect(line).toMatch(/^M106/);
  expect(after.match(/20 °C cooler/g)).toHaveLength(1);
  expect(treated).toBeGreaterThan(0);
  expect(tryEdits(tower, parsed({ ...wish, skip: [first + 1] }))).toMatchObject({ ok: false, field: "0.skip" });
  const flat = tryEdits(pieceText(conventions[0]), parsed(wish));
  expect(flat).toMatchObject({ ok: false, message: "Nothing in this file bridges air." });
});

test("how many layers before a bridge the nozzle is told, hand-worked: 20 °C at 1 °C/s and 5 s of lag are 25 s of layers", () => {
  const layers = Array.from({ length: 30 }, () => ({ seconds: 10 }));
  expect(layersToCool(20, 20, layers, { heaterFallCPerS: 1, heaterLagS: 5 })).toBe(3);
  expect(layersToCool(20, 20, layers, { heaterFallCPerS: 4, heaterLagS: 0 })).toBe(1);
  expect(layersToCool(2, 90, layers, { heaterFallCPerS: 0.5, heaterLagS: 5 })).toBe(1);
});

/** A cube of 20 mm, two walls and a fill, in layers of so much. */
const cube = (layerMm: number) =>
  pieceText(conventions[2], {
    layers: Math.round(20 / layerMm),
    layerMm,
    halfAt: () => 10,
    fillMm: 2.4,
    feedMmMin: 1500,
  });

const reported = (text: string, printer: Printer = ladle) => {
  const tables = readProgram(bytesOf(text));
  return reportOf(tables, limitsFor(printer), headOf(printer)).report;
};

test("a cube with outer walls in two passes takes a little longer, far less than one of thin layers throughout", () => {
  const coarse = cube(0.2);
  const { after } = edited(coarse, parsed({ kind: "outer-walls", passes: 2 }));
  const [plain, finer, fine] = [reported(coarse), reported(after), reported(cube(0.1))];
  // Common practice: 21, 25 and 38 minutes, that is 1.19 and 1.81 times as long; how much depends on how much of a piece is wall.
  const [passes, throughout] = [finer.seconds / plain.seconds, fine.seconds / plain.seconds];
  expect(passes).toBeGreaterThan(1.05);
  expect(passes).toBeLessThan(1.45);
  expect(throughout).toBeGreaterThan(1.7);
  const mm = (report: typeof plain) => report.filament.reduce((sum, one) => sum + one.mm, 0);
  expect(Math.abs(mm(finer) / mm(plain) - 1)).toBeLessThan(0.01);
  expect(finer.strike).toBeNull();
  // The comments still open the layers that were sliced: passes are walls within them.
  expect(finer.layers.map(({ zMm }) => zMm)).toEqual(plain.layers.map(({ zMm }) => zMm));
});

test("walls that lean: each pass lies where the wall is at its own height, by the cone's own formula", () => {
  // Half the side shrinks by 0.25 mm a millimetre: layer tops at 0.2 n, each laid as wide as at its middle.
  const halfAt = (z: number) => 9 - 0.25 * z;
  const text = pieceText(conventions[2], { layers: 20, halfAt });
  const { tables } = edited(text, parsed({ kind: "outer-walls", passes: 2 }));
  const { moves } = tables;
  const halves = new Map<number, number>();
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    const zMm = Number(moves.z[i].toFixed(3));
    halves.set(zMm, Math.max(halves.get(zMm) ?? 0, moves.x[i] - 110));
  }
  // A pass is 0.1 mm high and stands for its own middle.
  const heights = [...halves.keys()].sort((one, other) => one - other);
  expect(heights.length).toBe(39);
  for (const zMm of heights.slice(2, -2)) expect(halves.get(zMm)).toBeCloseTo(halfAt(zMm - 0.05), 2);
});

test("the inside of three fine layers is laid as one: as much material, in less time, never above what the nozzle lays", () => {
  const fine = pieceText(conventions[0], { layers: 60, layerMm: 0.1, halfAt: () => 10, fillMm: 2.4 });
  const { after } = edited(fine, parsed({ kind: "outer-walls", insideEvery: 3 }));
  const [plain, thick] = [reported(fine), reported(after)];
  const mm = (report: typeof plain) => report.filament.reduce((sum, one) => sum + one.mm, 0);
  expect(Math.abs(mm(thick) / mm(plain) - 1)).toBeLessThan(0.01);
  expect(thick.seconds).toBeLessThan(0.75 * plain.seconds);
  expect(thick.strike).toBeNull();
  expect(tryEdits(fine, parsed({ kind: "outer-walls", insideEvery: 4 }))).toMatchObject({
    ok: false,
    field: "0.insideEvery",
    message: expect.stringContaining("a 0.4 mm nozzle lays up to 0.32 mm"),
  });
});
