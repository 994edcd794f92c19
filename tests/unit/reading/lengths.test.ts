/** Lengths as people type them, and what follows from ripples and sags. */
import { jStat } from "jstat";
import { doubtOf, medianOf, pastedLengths } from "@/core/reading/typed-lengths";
import { resonanceOf } from "@/core/reading/resonance";
import { verdictOf, toldOf, unitsOf } from "@/core/trials/run";
import { pieceOf } from "@/core/simulator/piece/piece";
import { readPiece } from "@/core/simulator/piece/eye";
import { truthsOf } from "@/core/simulator/piece/truths";
import { guideOf } from "@/core/trials/run";
import { ladle, printers, saffron, trialOfKind } from "../helpers/demo";

test("ripples 2 mm apart at 80 mm/s are 40 Hz (f = v / s, the definition of a wave's length); errors as a statistics package has them", () => {
  expect(resonanceOf([{ speedMmS: 80, spacingMm: 2 }])).toMatchObject({ hz: 40, errorHz: null });
  const spacings = [1.9, 2.05, 2.1, 1.95];
  const found = resonanceOf(spacings.map((spacingMm) => ({ speedMmS: 80, spacingMm })))!;
  const swings = spacings.map((mm) => 80 / mm);
  expect(found.hz).toBeCloseTo(jStat.mean(swings), 9);
  expect(found.errorHz).toBeCloseTo(jStat.stdev(swings, true) / Math.sqrt(swings.length), 9);
  expect(resonanceOf([])).toBeNull();
});

test("on every simulated printer the ripples tell its resonance within 2 Hz", () => {
  for (const printer of printers) {
    const trial = trialOfKind("acceleration", printer, saffron);
    const run = { trial, printer, reachedMm: null, told: toldOf(trial, []), byHand: [] };
    const said = readPiece(pieceOf(run, saffron, 1), guideOf(run).measure, 3);
    const { resonance } = verdictOf(run, unitsOf(run), [said], {});
    expect(Math.abs(resonance!.hz - truthsOf(printer, saffron).resonanceHz)).toBeLessThan(2);
  }
});

test("a sag that was measured counts as the bridge's mark where nobody gave one, and only there", () => {
  const trial = trialOfKind("bridging", ladle, saffron);
  const run = { trial, printer: ladle, reachedMm: null, told: toldOf(trial, []), byHand: [] };
  const sag = (band: number, mm: number) => ({ band, what: "sag", valuesMm: [mm] });
  const { bands } = verdictOf(
    run,
    unitsOf(run),
    [{ marks: [{ band: 2, criterion: "bridge", mark: 4 }], measures: [sag(1, 1), sag(2, 2)] }],
    {},
  );
  expect(bands[0].score).toBe(2);
  expect(bands[1].score).toBe(4);
});

test("columns are pasted with points or commas; what is no figure is not taken", () => {
  expect(pastedLengths("0.44\n0.45\r\n0.46\n")).toEqual([0.44, 0.45, 0.46]);
  expect(pastedLengths("0,44\t0,45")).toEqual([0.44, 0.45]);
  expect(pastedLengths("0.44 mm")).toBeNull();
  expect(pastedLengths("-1")).toBeNull();
  expect(pastedLengths("")).toBeNull();
});

test.each([
  [4.5, 0.45, 0.45],
  [45, 0.45, 0.45],
  [0.045, 0.45, 0.45],
  [450, 0.45, 0.45],
  [0.47, 0.45, undefined],
  [0.3, 0.45, undefined],
  [1.4, 0.45, null],
])("%s mm where %s mm was expected: %s is meant", (mm, expected, meant) => {
  const doubt = doubtOf(mm, expected);
  if (meant === undefined) expect(doubt).toBeNull();
  else expect(doubt!.meantMm).toBe(meant);
});

test("the middle of some lengths", () => {
  expect(medianOf([3, 1, 2])).toBe(2);
  expect(medianOf([4, 1, 2, 3])).toBe(2.5);
  expect(medianOf([])).toBeNull();
});
