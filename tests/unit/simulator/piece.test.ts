/** Simulated pieces: what they are like follows from what was printed, they are drawn whole, and reading them finds what is hidden. */
import { XMLParser, XMLValidator } from "fast-xml-parser";
import { guideOf, isBeside, Run, toldOf, unitsOf, verdictOf } from "@/core/trials/run";
import { nextRound } from "@/core/trials/next-round";
import { slicesOf } from "@/core/trials/build";
import { TrialKindKey, trialKindKeys } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import { drawField, drawPiece, drawSwatches } from "@/core/simulator/piece/draw";
import { readPiece } from "@/core/simulator/piece/eye";
import { pieceOf } from "@/core/simulator/piece/piece";
import { truthsOf } from "@/core/simulator/piece/truths";
import { ladle, printers, saffron, spools, trialOfKind } from "../helpers/demo";

const runOfTrial = (trial: Trial, printer: Printer, change: Partial<Run> = {}) => ({
  trial,
  printer,
  reachedMm: null,
  told: toldOf(trial, []),
  byHand: [],
  ...change,
});

/** What is found when a piece is printed, read with an eye's noise, asked once more and read again. */
function twoRounds(kind: TrialKindKey, printer: Printer, spool: Spool, seed: number): number | null {
  let trial = trialOfKind(kind, printer, spool);
  for (let round = 1; ; round++) {
    const run = runOfTrial(trial, printer);
    const said = readPiece(pieceOf(run, spool, 1), guideOf(run).measure, seed * 17 + round);
    const verdict = verdictOf(run, unitsOf(run), [said], {});
    if (round === 2) return verdict.value;
    const next = nextRound(trial, { printer, spool }, verdict);
    if (!next.ok) return verdict.value;
    trial = { ...trial, plan: next.value };
  }
}

test("what is measured of the nozzle counts, not what was set: a piece printed 12 °C colder than told strings less", () => {
  const trial = trialOfKind("temperature", ladle, saffron);
  const asTold = pieceOf(runOfTrial(trial, ladle), saffron, 1);
  const told = toldOf(trial, []).map((one, i) => ({
    ...one,
    meanC: trial.plan.bands[i].settings.nozzleTemperature! - 12,
  }));
  const colder = pieceOf(runOfTrial(trial, ladle, { told }), saffron, 1);
  expect(colder.units[0].marks.strings!).toBeGreaterThan(asTold.units[0].marks.strings! + 0.5);
});

test("in a matrix what was measured in a band counts for its whole row, and for no other", () => {
  const trial = trialOfKind("retraction-matrix", ladle, saffron);
  const asTold = pieceOf(runOfTrial(trial, ladle), saffron, 1).units;
  const told = toldOf(trial, []).map((one) =>
    one.band === 2 ? { ...one, meanC: trial.fixed.nozzleTemperature! + 25 } : one,
  );
  const hotter = pieceOf(runOfTrial(trial, ladle, { told }), saffron, 1).units;
  const across = trial.plan.sideBySide!.values.length;
  const changed = hotter.flatMap(({ marks }, i) =>
    marks.strings === asTold[i].marks.strings ? [] : [Math.floor(i / across) + 1],
  );
  expect(new Set(changed)).toEqual(new Set([2]));
  expect(changed.length).toBeGreaterThan(across / 2);
});

test("hotter strings more, colder bonds less, more air bonds less, more drawing back leaves fewer strings", () => {
  const temperature = pieceOf(runOfTrial(trialOfKind("temperature", ladle, saffron), ladle), saffron, 1).units;
  // First rounds of temperature begin hot at the bed.
  expect(temperature[0].marks.strings!).toBeLessThan(temperature.at(-1)!.marks.strings!);
  expect(temperature.at(-1)!.marks.bond!).toBeLessThan(temperature[0].marks.bond!);
  const fan = pieceOf(runOfTrial(trialOfKind("fan", ladle, saffron), ladle), saffron, 1).units;
  expect(fan.at(-1)!.marks.bond!).toBeLessThan(fan[0].marks.bond!);
  expect(fan[0].marks.overhang!).toBeLessThan(fan.at(-1)!.marks.overhang!);
  const retraction = pieceOf(runOfTrial(trialOfKind("retraction", ladle, saffron), ladle), saffron, 1).units;
  expect(retraction[0].marks.strings!).toBeLessThan(retraction.at(-1)!.marks.strings!);
});

test("walls come out as thick as the extruder feeds: 3 % too little is 3 % too thin", () => {
  const run = runOfTrial(trialOfKind("flow", ladle, saffron), ladle);
  const whole = pieceOf(run, saffron, 1).units;
  const less = pieceOf(run, saffron, 0.97).units;
  less.forEach(({ lengthMm }, i) => expect(lengthMm! / whole[i].lengthMm!).toBeCloseTo(0.97, 3));
});

test("ripples lie as far apart as the nozzle comes in one swing, v / f (common practice, no source)", () => {
  const trial = trialOfKind("acceleration", ladle, saffron);
  const { rippleMm } = pieceOf(runOfTrial(trial, ladle), saffron, 1);
  const speedMmS = trial.fixed.printSpeed!;
  for (const mm of rippleMm) expect(speedMmS / mm).toBeCloseTo(truthsOf(ladle, saffron).resonanceHz, 0);
});

test("two rounds of reading with the noise of an eye come within 4 °C of the hidden temperature in nine of ten", () => {
  const misses: string[] = [];
  let asked = 0;
  for (const printer of printers) {
    for (const spool of spools) {
      const { bestNozzleC } = truthsOf(printer, spool);
      // Some printers cannot be as hot as a spool wants.
      if (bestNozzleC > printer.highestNozzleC - 5 || printer.highestBedC < spool.bedC) continue;
      for (let seed = 1; seed <= 5; seed++) {
        asked++;
        const found = twoRounds("temperature", printer, spool, seed);
        if (found === null || Math.abs(found - bestNozzleC) > 4)
          misses.push(`${printer.name}, ${spool.name}: ${found}, truth ${bestNozzleC.toFixed(1)}`);
      }
    }
  }
  expect(asked).toBeGreaterThan(50);
  expect({ share: misses.length / asked <= 0.1, misses: misses.length / asked <= 0.1 ? [] : misses }).toEqual({
    share: true,
    misses: [],
  });
});

test.each(trialKindKeys)("%s is drawn from both sides as well-formed SVG of the piece's own size", (kind) => {
  const trial = trialOfKind(kind, ladle, saffron);
  const run = runOfTrial(trial, ladle);
  const units = unitsOf(run);
  const drawn = { piece: pieceOf(run, saffron, 0.97), units, layerMm: 0.2, colourHex: saffron.colourHex };
  const slices = slicesOf({ trial, printer: ladle, spool: saffron });
  for (const side of ["front", "back"] as const) {
    const { svg, widthMm, heightMm } =
      units[0].column !== undefined
        ? drawField(drawn)
        : isBeside({ bands: units, trial })
          ? drawSwatches(drawn)
          : drawPiece({ ...drawn, slices, side, reachedMm: null });
    expect(XMLValidator.validate(svg)).toBe(true);
    const root = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: "" }).parse(svg).svg;
    expect([root.width, root.height]).toEqual([`${widthMm}mm`, `${heightMm}mm`]);
    expect(svg).not.toMatch(/NaN|Infinity|undefined/);
    if (!isBeside({ bands: units, trial })) expect(heightMm).toBeCloseTo(slices.at(-1)!.zTopMm, 1);
  }
});

test("a piece that broke off is drawn as high as it came", () => {
  const trial = trialOfKind("temperature", ladle, saffron);
  const run = runOfTrial(trial, ladle, { reachedMm: 12 });
  const drawn = { piece: pieceOf(run, saffron, 1), units: unitsOf(run), layerMm: 0.2, colourHex: saffron.colourHex };
  const slices = slicesOf({ trial, printer: ladle, spool: saffron });
  expect(drawPiece({ ...drawn, slices, side: "front", reachedMm: 12 }).heightMm).toBeCloseTo(12, 1);
});

test("the same look gives the same marks, another look others; marks are whole and nothing is measured that the kind does not ask for", () => {
  const run = runOfTrial(trialOfKind("flow", ladle, saffron), ladle);
  const piece = pieceOf(run, saffron, 0.97);
  const { measure } = guideOf(run);
  expect(readPiece(piece, measure, 5)).toEqual(readPiece(piece, measure, 5));
  expect(readPiece(piece, measure, 5)).not.toEqual(readPiece(piece, measure, 6));
  for (const { mark } of readPiece(piece, measure, 5).marks) expect([0, 1, 2, 3, 4]).toContain(mark);
  expect(readPiece(piece, undefined, 5).measures).toEqual([]);
});
