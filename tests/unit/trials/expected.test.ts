/** What earlier spools teach: the sums by hand, and spools that were drawn apart as makers' spools are. */
import { buildTrial } from "@/core/trials/build";
import { expectedOf, expectedOfEach, ExpectedRanges, KnownPair } from "@/core/trials/expected";
import { firstRound } from "@/core/trials/first-round";
import { inspectTrial } from "@/core/trials/inspect";
import { usualLayerMm } from "@/core/printing/process";
import type { Spool } from "@/core/shelf/spool";
import { bell, diceOf } from "../reading/worlds";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

const spoolOf = (change: Partial<Spool>): Spool => ({ ...saffron, ...change });
const colours = ["#111111", "#222222", "#333333", "#444444", "#555555"];
const known = (values: number[], change: Partial<Spool> = {}): KnownPair[] =>
  values.map((value, i) => ({
    printerId: 1,
    spoolId: i + 2,
    printer: ladle,
    spool: spoolOf({ name: `Other ${i}`, colourHex: colours[i % colours.length], ...change }),
    value,
  }));
const own = { printer: ladle, spool: saffron };

test("one other spool of the maker: its value, with the cautious figures as they stand", () => {
  const found = expectedOf(own, "nozzleTemperature", known([208]))!;
  expect(found.value).toBe(208);
  // The label is 30 °C wide: τ² = 2·(0.13² + 0.1²)·30² = 48.4; 48.4 / 2 + 48.4 / 2, and 1.645·√48.4 = 11.4 °C to each side.
  expect([found.fromValue, found.toValue]).toEqual([196, 220]);
  expect(found.because).toEqual([{ printerId: 1, spoolId: 2, value: 208, weight: 1 }]);
});

test("nearer pairs say more, and values that agree on this bench narrow what is expected", () => {
  const far = known([220], { maker: "Somebody else" }).map((one) => ({ ...one, spoolId: 9 }));
  const found = expectedOf(own, "nozzleTemperature", [...known([206]), ...far])!;
  expect(found.value).toBeLessThan(213);
  expect(found.because[0]).toMatchObject({ spoolId: 2 });
  const agreed = expectedOf(own, "nozzleTemperature", known([207, 208, 208, 209, 207]))!;
  const apart = expectedOf(own, "nozzleTemperature", known([198, 208, 218, 204, 213]))!;
  expect(agreed.toValue - agreed.fromValue).toBeLessThan(apart.toValue - apart.fromValue);
});

test("another material, or another way of the filament, says nothing", () => {
  expect(expectedOf(own, "nozzleTemperature", known([240], { material: "PETG" }))).toBeNull();
  const direct = known([208]).map((one) => ({ ...one, printer: { ...ladle, retractionMm: 0.8 } }));
  expect(expectedOf(own, "retractionLength", direct)).toBeNull();
  expect(expectedOf(own, "nozzleTemperature", [])).toBeNull();
});

test("of makers' spools drawn 4 °C apart, nine of ten of what is expected hold the sixth after five", () => {
  let held = 0;
  for (let seed = 1; seed <= 400; seed++) {
    const dice = diceOf(seed * 6007);
    const maker = 205 + 5 * bell(dice);
    const [truth, ...others] = Array.from({ length: 6 }, () => maker + 4 * bell(dice));
    const { fromValue, toValue } = expectedOf(own, "nozzleTemperature", known(others))!;
    if (truth >= fromValue && truth <= toValue) held++;
  }
  expect(held / 400).toBeGreaterThanOrEqual(0.85);
  expect(held / 400).toBeLessThanOrEqual(0.98);
});

const request = {
  printer: ladle,
  spool: saffron,
  kept: {},
  options: {},
  layerHeightMm: usualLayerMm(ladle),
  firstLayerHeightMm: usualLayerMm(ladle),
};
const valuesOf = (round: ReturnType<typeof firstRound>) =>
  round.plan.bands.map(({ settings }) => settings.nozzleTemperature!);

test("the first round asks where much is known, the whole range where little is, and the pair's own value counts more", () => {
  const whole = valuesOf(firstRound("temperature", request));
  const much = { nozzleTemperature: expectedOf(own, "nozzleTemperature", known([207, 208, 208, 209, 207]))! };
  const placed = firstRound("temperature", { ...request, expected: much });
  const values = valuesOf(placed);
  expect(Math.max(...values) - Math.min(...values)).toBeLessThan(Math.max(...whole) - Math.min(...whole));
  expect(Math.min(...values)).toBeLessThan(much.nozzleTemperature.fromValue + 0.01);
  expect(Math.max(...values)).toBeGreaterThan(much.nozzleTemperature.toValue - 0.01);
  expect(placed.notes.join(" ")).toMatch(/5 kept values for PLA of Larkfield: 207 to 209 °C/);
  const little = { nozzleTemperature: expectedOf(own, "nozzleTemperature", known([208]))! };
  expect(valuesOf(firstRound("temperature", { ...request, expected: little }))).toEqual(whole);
  const kept = firstRound("temperature", { ...request, kept: { nozzleTemperature: 215 }, expected: much });
  expect(valuesOf(kept)).toEqual(whole);
});

test("each value from all the others is what is expected without it", () => {
  const all = [
    ...known([205, 211, 208, 219]),
    ...known([203, 206], { maker: "Another" }),
    ...known([240, 243], { material: "PETG" }),
  ];
  const each = expectedOfEach("nozzleTemperature", all);
  all.forEach((one, i) => {
    const alone = expectedOf(one, "nozzleTemperature", [...all.slice(0, i), ...all.slice(i + 1)])!;
    expect(each[i]!.value).toBeCloseTo(alone.value, 6);
    expect(each[i]!.fromValue).toBeCloseTo(alone.fromValue, 6);
    expect(each[i]!.because.map(({ value }) => value).sort()).toEqual(alone.because.map(({ value }) => value).sort());
  });
});

test("what a round takes from earlier spools is said on the trial, and nothing of it is called kept", () => {
  const expected = { nozzleTemperature: expectedOf(own, "nozzleTemperature", known([207, 208, 208, 209, 207]))! };
  const messages = (kind: "fan" | "temperature" | "retraction", of: ExpectedRanges, told: ExpectedRanges = of) => {
    const { plan, fixed } = firstRound(kind, { ...request, expected: of });
    const trial = { ...trialOfKind(kind, ladle, saffron), plan, fixed };
    const input = { trial, printer: ladle, spool: saffron, kept: {}, expected: told };
    return inspectTrial(input, buildTrial(input)).findings.map(({ message }) => message);
  };
  expect(messages("fan", expected)).toContainEqual(
    expect.stringMatching(/^Nozzle temperature is held at 208 °C, not tried here: 5 kept values for PLA/),
  );
  expect(messages("fan", expected, {}).some((message) => message.includes("is held at"))).toBe(false);
  expect(messages("temperature", expected)).toContainEqual(expect.stringContaining("This round asks from there"));
  const fan = { fan: { value: 80, fromValue: 70, toValue: 90, why: "3 kept values" } };
  expect(messages("retraction", fan)).toContainEqual(
    expect.stringContaining("half of the 80 % that earlier spools wanted"),
  );
});
