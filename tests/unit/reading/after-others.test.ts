/** What earlier spools save: with five neighbours one round is enough in most cases, and a spool unlike its maker's others costs one round more. */
import type { Mark } from "@/core/reading/criterion";
import { usualLayerMm } from "@/core/printing/process";
import type { Verdict } from "@/core/reading/verdict";
import { settingFor } from "@/core/settings";
import { Expected, expectedOf, KnownPair } from "@/core/trials/expected";
import { firstRound } from "@/core/trials/first-round";
import { nextRound } from "@/core/trials/next-round";
import { guideOf, toldOf, unitsOf, verdictOf } from "@/core/trials/run";
import type { Trial } from "@/core/trials/trial";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { bell, Dice, diceOf } from "./worlds";

const MOST_ROUNDS = 5;
const colours = ["#111111", "#222222", "#333333", "#444444", "#555555"];
const { step } = settingFor("nozzleTemperature");

function known(values: readonly number[]): KnownPair[] {
  return values.map((value, i) => ({
    printerId: 1,
    spoolId: i + 2,
    printer: ladle,
    spool: { ...saffron, colourHex: colours[i] },
    value: Math.round(value),
  }));
}

/** A piece of a plan as an eye with noise sees it: a round hill 8 °C wide for each criterion, at its own place near the truth. */
function look(plan: Trial["plan"], truth: number, dice: Dice): Verdict {
  const trial = { ...trialOfKind("temperature", ladle, saffron), plan };
  const run = { trial, printer: ladle, reachedMm: null, told: toldOf(trial, []), byHand: [] };
  const units = unitsOf(run);
  const marks = units.flatMap(({ band, value }) =>
    guideOf(run).uses.map(({ key }) => ({
      band,
      criterion: key,
      mark: Math.max(0, Math.min(4, Math.round(4 - ((value - truth) / 8) ** 2 + 0.4 * bell(dice)))) as Mark,
    })),
  );
  return verdictOf(run, units, [{ marks, measures: [] }], {});
}

/** Rounds until it says keep, what it keeps then, and whether that is right: within a step of the truth. */
function asked(truth: number, expected: Expected | null, dice: Dice) {
  const heights = { layerHeightMm: usualLayerMm(ladle), firstLayerHeightMm: usualLayerMm(ladle) };
  const request = { printer: ladle, spool: saffron, kept: {}, options: {}, ...heights };
  let { plan } = firstRound(
    "temperature",
    expected ? { ...request, expected: { nozzleTemperature: expected } } : request,
  );
  for (let round = 1; round <= MOST_ROUNDS; round++) {
    const found = look(plan, truth, dice);
    if (found.advice === "keep") return { rounds: round, isRight: Math.abs(found.value! - truth) <= step };
    const next = nextRound(
      { ...trialOfKind("temperature", ladle, saffron), plan },
      { printer: ladle, spool: saffron },
      found,
    );
    if (!next.ok) return { rounds: round, isRight: true };
    plan = next.value;
  }
  return { rounds: MOST_ROUNDS, isRight: true };
}

const PIECES = 150;

test("with values of five neighbouring spools one round does in eight of ten", () => {
  let once = 0;
  let wrong = 0;
  for (let seed = 1; seed <= PIECES; seed++) {
    const dice = diceOf(seed * 31_337);
    const maker = 208 + 3 * bell(dice);
    const [truth, ...others] = Array.from({ length: 6 }, () => maker + 3 * bell(dice));
    const { rounds, isRight } = asked(
      truth,
      expectedOf({ printer: ladle, spool: saffron }, "nozzleTemperature", known(others)),
      dice,
    );
    if (rounds === 1 && isRight) once++;
    if (!isRight) wrong++;
  }
  expect(once).toBeGreaterThanOrEqual(0.8 * PIECES);
  expect(wrong).toBeLessThanOrEqual(0.03 * PIECES);
});

test("a spool unlike its maker's others costs at most one round more than without them, and is never kept wrongly for it", () => {
  let [more, wrong] = [0, 0];
  for (let seed = 1; seed <= PIECES; seed++) {
    const truth = seed % 2 === 0 ? 219 : 199;
    const others = [208, 209, 207, 208, 210].map((value) => value + bell(diceOf(seed)));
    const expected = expectedOf({ printer: ladle, spool: saffron }, "nozzleTemperature", known(others));
    const [withOthers, alone] = [asked(truth, expected, diceOf(seed * 17)), asked(truth, null, diceOf(seed * 17))];
    if (withOthers.rounds > alone.rounds + 1) more++;
    if (!withOthers.isRight) wrong++;
  }
  expect(more).toBeLessThanOrEqual(0.05 * PIECES);
  expect(wrong).toBeLessThanOrEqual(0.03 * PIECES);
});
