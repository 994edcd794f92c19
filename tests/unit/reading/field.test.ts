/** A field of two settings: read cell by cell, it tells the least retraction and the speed it is least at; and how it goes on. */
import { fieldValue } from "@/core/reading/rules/field";
import type { ScoredBand } from "@/core/reading/score";
import { guideOf, soughtKey, toldOf, unitsOf, verdictOf } from "@/core/trials/run";
import { nextRound } from "@/core/trials/next-round";
import { inAnotherKind } from "@/core/trials/in-another-kind";
import { readPiece } from "@/core/simulator/piece/eye";
import { pieceOf } from "@/core/simulator/piece/piece";
import { neededMm } from "@/core/simulator/piece/defects/strings";
import { truthsOf } from "@/core/simulator/piece/truths";
import { ladle, printers, saffron, trialOfKind } from "../helpers/demo";

const cell = (along: number, value: number, must: number): ScoredBand => ({
  band: 1,
  value,
  along,
  counts: true,
  score: must,
  must,
  spread: 0.3,
});

const lengths = [0.5, 1, 2, 3, 4, 5, 6];

test("the least is found at the speed where the least is needed, between two rows if the rows bend so", () => {
  // What a speed needs: 2 mm at 35 mm/s, more on both sides; the bar is passed where it is drawn back that far.
  const needed = (speed: number) => 2 + ((speed - 35) / 12) ** 2;
  const cells = [10, 20, 30, 40, 50, 60].flatMap((speed) =>
    lengths.map((mm) => cell(speed, mm, Math.max(0, Math.min(4, 3 + (mm - needed(speed)) * 1.5)))),
  );
  const found = fieldValue(cells, "retractionLength", "retractionSpeed")!;
  expect(found.along).toBeGreaterThan(31);
  expect(found.along).toBeLessThan(39);
  expect(found.value).toBeGreaterThan(1.5);
  expect(found.value).toBeLessThan(2.5);
});

test("rows without marks say nothing; without any there is no answer; equal marks are no answer either", () => {
  expect(fieldValue([], "retractionLength", "retractionSpeed")).toBeNull();
  const equal = lengths.map((mm) => cell(20, mm, 3));
  expect(fieldValue(equal, "retractionLength", "retractionSpeed")!.advice).toBe("mark-more");
});

const trial = trialOfKind("retraction-matrix", ladle, saffron);
const run = { trial, printer: ladle, reachedMm: null, told: toldOf(trial, []), byHand: [] };

test("every length at every speed is a cell, counted row by row from the bed, and carries both values", () => {
  const units = unitsOf(run);
  const { values } = trial.plan.sideBySide!;
  expect(units).toHaveLength(values.length * trial.plan.bands.length);
  expect(units.map(({ band }) => band)).toEqual(units.map((_, i) => i + 1));
  expect(units[values.length + 1]).toMatchObject({
    column: 1,
    value: values[1],
    along: trial.plan.bands[1].settings.retractionSpeed,
  });
  expect(units[0].settings).toMatchObject({
    retractionLength: values[0],
    retractionSpeed: trial.plan.bands[0].settings.retractionSpeed,
  });
  expect(soughtKey(trial, ladle)).toBe("retractionLength");
});

test("a simulated matrix, read by an eye, comes within a step of what is hidden on every printer, in four of five looks", () => {
  let near = 0;
  let all = 0;
  for (const printer of printers) {
    const asked = trialOfKind("retraction-matrix", printer, saffron);
    const own = { trial: asked, printer, reachedMm: null, told: toldOf(asked, []), byHand: [] };
    const truths = truthsOf(printer, saffron);
    const nozzleC = asked.fixed.nozzleTemperature!;
    const truth = neededMm({ nozzleC, retractionMmS: truths.bestRetractionMmS } as never, truths);
    for (let seed = 1; seed <= 10; seed++) {
      const said = readPiece(pieceOf(own, saffron, 1), guideOf(own).measure, seed * 31);
      const { value } = verdictOf(own, unitsOf(own), [said], {});
      all++;
      const step = asked.plan.sideBySide!.values[2] - asked.plan.sideBySide!.values[1];
      if (value !== null && Math.abs(value - truth) <= step) near++;
    }
  }
  expect(near / all).toBeGreaterThanOrEqual(0.8);
});

const said = readPiece(pieceOf(run, saffron, 1), undefined, 5);
const verdict = verdictOf(run, unitsOf(run), [said], {});

test("the next round is narrower both ways around what was found", () => {
  expect(verdict.along?.setting).toBe("retractionSpeed");
  const next = nextRound(trial, ladle, verdict);
  if (!next.ok) throw new Error(next.message);
  const spanOf = (values: number[]) => Math.max(...values) - Math.min(...values);
  const speedsOf = (plan: typeof trial.plan) => plan.bands.map(({ settings }) => settings.retractionSpeed!);
  expect(spanOf(next.value.sideBySide!.values)).toBeLessThan(spanOf(trial.plan.sideBySide!.values));
  expect(spanOf(speedsOf(next.value))).toBeLessThan(spanOf(speedsOf(trial.plan)));
  expect(Math.min(...next.value.sideBySide!.values)).toBeLessThanOrEqual(verdict.value!);
  expect(Math.max(...next.value.sideBySide!.values)).toBeGreaterThanOrEqual(verdict.value!);
});

test("a field goes on as a tower of lengths with the speed held, and in no other kind", () => {
  const input = { trial, printer: ladle, spool: saffron };
  const next = inAnotherKind(input, run, verdict, "retraction");
  if (!next.ok) throw new Error(next.message);
  expect(next.value.kind).toBe("retraction");
  expect(next.value.fixed.retractionSpeed).toBe(verdict.along!.value);
  expect(next.value.fixed.retractionLength).toBeUndefined();
  const values = next.value.plan.bands.map(({ settings }) => settings.retractionLength!);
  expect(Math.min(...values)).toBeLessThan(verdict.value!);
  expect(Math.max(...values)).toBeGreaterThan(verdict.value!);
  expect(inAnotherKind(input, run, verdict, "temperature")).toMatchObject({ ok: false, field: "kind" });
});
