/** A field of two settings: read cell by cell, it tells the least retraction and the speed it is least at; and how it goes on. */
import type { Mark } from "@/core/reading/criterion";
import { fromField } from "@/core/reading/from-field";
import { guideOf, soughtKey, toldOf, unitsOf, verdictOf } from "@/core/trials/run";
import { nextRound } from "@/core/trials/next-round";
import { inAnotherKind } from "@/core/trials/in-another-kind";
import { readPiece } from "@/core/simulator/piece/eye";
import { pieceOf } from "@/core/simulator/piece/piece";
import type { Laid } from "@/core/simulator/piece/defect";
import { strings } from "@/core/simulator/piece/defects/strings";
import { truthsOf } from "@/core/simulator/piece/truths";
import { ladle, printers, saffron, trialOfKind } from "../helpers/demo";

const lengths = [0.5, 1, 2, 3, 4, 5, 6];
const speeds = [10, 20, 30, 40, 50, 60];
const uses = [{ key: "strings" as const, weight: 1, must: true }];
const settings = { across: "retractionLength", along: "retractionSpeed" } as const;

/** A field read without noise; what a speed needs is passed where the quality is 3. */
function fieldOf(quality: (mm: number, speed: number) => number) {
  const cells = speeds.flatMap((along, row) =>
    lengths.map((value, i) => ({ band: row * lengths.length + i + 1, value, along, counts: true })),
  );
  const marks = cells.map(({ band, value, along }) => ({
    band,
    criterion: "strings" as const,
    mark: Math.max(0, Math.min(4, Math.round(quality(value, along)))) as Mark,
  }));
  return { cells, marks };
}

test("the least is found at the speed where the least is needed, also between two rows", () => {
  // What a speed needs: 2 mm at 35 mm/s, more on both sides.
  const needed = (speed: number) => 2 + ((speed - 35) / 12) ** 2;
  const { cells, marks } = fieldOf((mm, speed) => 3 + (mm - needed(speed)) * 1.5);
  const found = fromField(cells, [marks], uses, settings)!;
  expect(found.along).toBeGreaterThan(30);
  expect(found.along).toBeLessThan(40);
  expect(found.fromValue).toBeLessThanOrEqual(2);
  expect(found.toValue).toBeGreaterThanOrEqual(2);
  expect(lengths).toContain(found.value);
  expect(found.value).toBeLessThanOrEqual(3);
});

test("without marks there is no answer; where nothing is good anywhere more is asked for; equal marks are no answer", () => {
  const { cells, marks } = fieldOf(() => 0);
  expect(fromField(cells, [[]], uses, settings)).toBeNull();
  expect(fromField(cells, [marks], uses, settings)!.advice).toBe("higher");
  const good = fieldOf(() => 4);
  expect(["lower", "mark-more"]).toContain(fromField(good.cells, [good.marks], uses, settings)!.advice);
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
  let held = 0;
  for (const printer of printers) {
    const asked = trialOfKind("retraction-matrix", printer, saffron);
    const own = { trial: asked, printer, reachedMm: null, told: toldOf(asked, []), byHand: [] };
    const truths = truthsOf(printer, saffron);
    // The least that is good, by the piece itself: where the strings come to a mark of 3 at the best speed, if they ever do.
    const markAt = (retractionMm: number) =>
      strings.mark(
        { nozzleC: asked.fixed.nozzleTemperature!, retractionMmS: truths.bestRetractionMmS, retractionMm } as Laid,
        truths,
      );
    const truth = Array.from({ length: 800 }, (_, i) => i / 100).find((mm) => markAt(mm) >= 3);
    if (truth === undefined) continue;
    for (let seed = 1; seed <= 10; seed++) {
      const said = readPiece(pieceOf(own, saffron, 1), guideOf(own).measure, seed * 31);
      const { value, fromValue, toValue } = verdictOf(own, unitsOf(own), [said], {});
      all++;
      const step = asked.plan.sideBySide!.values[2] - asked.plan.sideBySide!.values[1];
      if (value !== null && Math.abs(value - truth) <= step) near++;
      if (fromValue! <= truth && toValue! >= truth) held++;
    }
  }
  expect(all).toBeGreaterThanOrEqual(30);
  expect(near / all).toBeGreaterThanOrEqual(0.8);
  expect(held / all).toBeGreaterThanOrEqual(0.8);
});

const said = readPiece(pieceOf(run, saffron, 1), undefined, 5);
const verdict = verdictOf(run, unitsOf(run), [said], {});

test("the next round is narrower both ways around what was found", () => {
  expect(verdict.along?.setting).toBe("retractionSpeed");
  const next = nextRound(trial, { printer: ladle, spool: saffron }, verdict);
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
