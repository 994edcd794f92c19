/** First rounds for other materials and nozzles: each rule acts where it says so, and says why. All of it common practice, no source. */
import { laysMaterial } from "@/core/gcode/moves";
import { firstRound } from "@/core/trials/first-round";
import { TrialKindKey } from "@/core/trials";
import { buildTrial } from "@/core/trials/build";
import { effortOf } from "@/core/trials/effort";
import { Printer } from "@/core/shelf/printer";
import { Spool } from "@/core/shelf/spool";
import { SettingKey, SettingValues } from "@/core/settings";
import { ladle, printers, saffron, spools, trialOfKind } from "../helpers/demo";

const of = (material: string) => spools.find((spool) => spool.material === material)!;
const round = (kind: TrialKindKey, spool: Spool, printer: Printer = ladle, kept: SettingValues = {}) =>
  firstRound(kind, { printer, spool, kept, options: {}, layerHeightMm: 0.2, firstLayerHeightMm: 0.2 });
const highest = (kind: TrialKindKey, key: SettingKey, spool: Spool, printer?: Printer) =>
  Math.max(...round(kind, spool, printer).plan.bands.map(({ settings }) => settings[key] ?? 0));

test("a flexible spool is drawn back 3 mm at most, slowly, and pushed no faster than a fifth past 40 mm/s", () => {
  expect(highest("retraction", "retractionLength", of("TPU"))).toBe(3);
  expect(highest("retraction", "retractionLength", saffron)).toBe(8);
  expect(highest("retraction-matrix", "retractionSpeed", of("TPU"))).toBe(30);
  expect(highest("speed", "printSpeed", of("TPU"))).toBeLessThanOrEqual(48);
  expect(highest("speed", "printSpeed", of("TPU"))).toBeGreaterThan(40);
  expect(round("acceleration", of("TPU")).fixed.printSpeed).toBeLessThanOrEqual(40);
  expect(round("retraction", of("TPU")).notes.join()).toMatch(/TPU stretches .* nothing above 3 mm is tried/);
});

test("all that a flexible spool's program lays is laid slowly, whatever the kind", () => {
  for (const kind of ["temperature", "fan", "bridging"] as const) {
    const { moves } = buildTrial({ trial: trialOfKind(kind, ladle, of("TPU")), printer: ladle, spool: of("TPU") });
    let fastest = 0;
    for (let i = 0; i < moves.count; i++) {
      if (laysMaterial(moves.kind[i])) fastest = Math.max(fastest, moves.feedMmS[i]);
    }
    expect(fastest).toBeLessThanOrEqual(40.01);
  }
});

test("PETG gets no more than 60 % of air, ASA no more than 40 %, PLA all of it", () => {
  expect(highest("fan", "fan", of("PETG"))).toBe(60);
  expect(highest("fan", "fan", of("ASA"))).toBe(40);
  expect(highest("fan", "fan", saffron)).toBe(100);
  expect(round("fan", of("ASA")).notes.join()).toMatch(/ASA warps and splits under more air/);
});

test("a value that was found counts more than a rule", () => {
  expect(round("retraction", of("TPU"), ladle, { retractionSpeed: 45 }).fixed.retractionSpeed).toBe(45);
});

test("a wide nozzle lays thicker layers and gives each of them longer, and says so", () => {
  const wide = { ...ladle, nozzleMm: 0.6 };
  expect(round("temperature", saffron, wide).notes.join()).toMatch(/a layer takes at least 12 s instead of 8 s/);
  expect(round("temperature", saffron).notes.join()).not.toMatch(/takes at least/);
  // Half the nozzle's width a layer: fewer of them, so that the print is no longer for it.
  const wideS = effortOf("temperature", wide, saffron, { kept: {} }).seconds;
  expect(wideS).toBeLessThan(effortOf("temperature", ladle, saffron, { kept: {} }).seconds * 1.2);
});

test("draughts and doors are spoken of where they matter", () => {
  const sieve = printers.find(({ enclosed }) => enclosed)!;
  expect(round("temperature", of("ASA")).notes.join()).toMatch(/ASA may warp in a draught/);
  expect(round("temperature", of("ASA"), sieve).notes.join()).not.toMatch(/draughts/);
  expect(round("temperature", saffron, sieve).notes.join()).toMatch(/open its door for PLA/);
  expect(round("temperature", saffron).notes).toEqual([]);
});
