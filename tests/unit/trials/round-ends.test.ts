/** A next round never asks what printer, spool or kind does not bear: what its own checks would stop, or nobody would wait for. */
import type { Verdict } from "@/core/reading/verdict";
import { verdict } from "@/core/reading/verdict";
import type { SettingKey } from "@/core/settings";
import type { TrialKindKey } from "@/core/trials";
import { nextRound } from "@/core/trials/next-round";
import { roundEnds } from "@/core/trials/round-ends";
import { primaryKey } from "@/core/trials/shown";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import type { Spool } from "@/core/shelf/spool";
import { ladle, printers, saffron, trialOfKind } from "../helpers/demo";

const nothing = verdict({
  guide: { rule: "best", uses: [] },
  setting: "nozzleTemperature",
  bands: [],
  readers: [],
  weights: {},
});

function further(kind: TrialKindKey, spool: Spool, towards: "higher" | "lower", printer = ladle) {
  const trial = trialOfKind(kind, printer, spool);
  const key = primaryKey(trial, printer);
  const tried = trial.plan.bands.map(({ settings }) => settings[key]!);
  const value = towards === "higher" ? Math.max(...tried) : Math.min(...tried);
  const found: Verdict = { ...nothing, value, fromValue: value, toValue: value, advice: towards };
  const next = nextRound(trial, { printer, spool }, found);
  return { tried, next, values: next.ok ? next.value.bands.map(({ settings }) => settings[key]!) : [], trial };
}

test("a label is stretched by 10 °C a round, and nothing is fed colder than it melts", () => {
  expect(Math.min(...further("temperature", saffron, "lower").values)).toBe(186);
  expect(Math.max(...further("temperature", saffron, "higher").values)).toBe(234);
  const cold = { ...saffron, labelMinC: 175, labelMaxC: 190 };
  const { values } = further("temperature", cold, "lower");
  expect(Math.min(...values, 170)).toBeGreaterThanOrEqual(170);
});

test.each([
  ["ASA", "fan", "fan", 40],
  ["PETG", "fan", "fan", 60],
  ["PLA", "retraction", "retractionLength", 8],
] as const)("%s: %s goes no further than it bears", (material, kind, key, most) => {
  const spool = { ...saffron, material };
  expect(roundEnds(key, { printer: ladle, spool }, [0, most]).high).toBe(most);
  const { next } = further(kind, spool, "higher");
  expect(next).toMatchObject({ ok: false });
});

test("speeds and accelerations go half as slow or twice as fast, and what was tried last is tried again", () => {
  for (const kind of ["speed", "acceleration"] as const) {
    const { values, tried } = further(kind, saffron, "lower");
    expect(Math.min(...values)).toBeGreaterThanOrEqual(Math.min(...tried) / 2);
    const [lowest, second] = [...tried].sort((a, b) => a - b);
    expect(values).toEqual(expect.arrayContaining([lowest, second]));
  }
});

test.each(printers.map((printer) => [printer.name, printer] as const))(
  "on %s no next round is stopped by a check that its first round passes",
  (_, printer) => {
    for (const kind of ["temperature", "fan", "retraction", "speed", "acceleration"] as const) {
      for (const towards of ["higher", "lower"] as const) {
        const { next, trial } = further(kind, saffron, towards, printer);
        if (!next.ok) continue;
        const keysOf = (plan: typeof trial.plan) => {
          const input = { trial: { ...trial, plan }, printer, spool: saffron };
          const { findings } = inspectTrial(input, buildTrial(input));
          return findings.filter(({ severity }) => severity === "stop").map(({ check }) => check);
        };
        expect(keysOf(next.value)).toEqual(keysOf(trial.plan));
      }
    }
  },
);

test("a round that goes on finer covers the whole range, and one value beyond it on each side", () => {
  const trial = trialOfKind("temperature", ladle, saffron);
  for (const [fromValue, toValue] of [
    [206, 212],
    [199, 216],
  ]) {
    const found: Verdict = { ...nothing, value: 209, fromValue, toValue, advice: "narrow" };
    const next = nextRound(trial, { printer: ladle, spool: saffron }, found);
    if (!next.ok) throw new Error(next.message);
    const values = next.value.bands.map(({ settings }) => settings.nozzleTemperature!);
    expect(Math.min(...values)).toBeLessThan(fromValue);
    expect(Math.max(...values)).toBeGreaterThan(toValue);
    expect(values).toContain(209);
  }
});

test("of a setting without rules the ends are its own", () => {
  const key: SettingKey = "flowFactor";
  expect(roundEnds(key, { printer: ladle, spool: null }, [90, 110])).toMatchObject({ low: expect.any(Number) });
});
