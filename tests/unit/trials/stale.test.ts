/** When a kept value does not hold any more: the documented reasons (docs/reading.md), each alone. */
import { whyStale } from "@/core/trials/stale";
import { trialKindFor } from "@/core/trials";
import { firstRound } from "@/core/trials/first-round";
import { benchRows } from "@/core/trials/bench-row";
import { roadOf } from "@/core/road/road";
import { ladle, printers, saffron } from "../helpers/demo";
import { around, keptValue } from "../helpers/kept";

const { needs } = trialKindFor("retraction");

test("what was found holds while nothing has changed", () => {
  const own = keptValue({ setting: "retractionLength", value: 3, inForce: { nozzleTemperature: 210 } });
  const kept = [own, keptValue({ keptAt: "2026-10-01T10:00:00Z" })];
  expect(whyStale(own, needs, { ...around, kept })).toEqual([]);
});

test("another nozzle, another temperature kept later, extruder steps measured later, its age, and being asked anew make it stale", () => {
  const own = keptValue({ setting: "retractionLength", value: 3, inForce: { nozzleTemperature: 210 } });
  const later = keptValue({ value: 216, keptAt: "2026-11-02T10:00:00Z" });
  const all = whyStale(own, needs, {
    ...around,
    printer: { ...ladle, nozzleMm: 0.6 },
    kept: [later, own],
    askedAnewAt: "2026-11-03T10:00:00Z",
    staleDays: 20,
  });
  expect(all).toEqual([
    "Marked to be asked again.",
    `It was found with a 0.4 mm nozzle; ${ladle.name} has a 0.6 mm one now.`,
    "Nozzle temperature was kept later: 216 °C instead of 210 °C.",
    "It is 24 days old.",
  ]);
  const flow = keptValue({ setting: "flowFactor", value: 98 });
  const measuredAt = new Map([["extruder-steps", "2026-11-02T10:00:00Z"]]);
  expect(whyStale(flow, trialKindFor("flow").needs, { ...around, measuredAt })).toContain(
    "Measured later: extruder steps.",
  );
});

test("the same value kept once more later changes nothing", () => {
  const own = keptValue({ setting: "retractionLength", value: 3, inForce: { nozzleTemperature: 210 } });
  const again = keptValue({ value: 210, keptAt: "2026-11-02T10:00:00Z" });
  expect(whyStale(own, needs, { ...around, kept: [again, own] })).toEqual([]);
});

test("steps that the firmware has changed since make what rests on them stale; a rounding does not", () => {
  const flow = keptValue({ setting: "flowFactor", value: 98 });
  const reading = (takenAt: string, value: number) => ({ takenAt, entries: [{ id: "extruderSteps", value }] });
  const then = reading("2026-10-20T10:00:00Z", 93);
  const why = (value: number) =>
    whyStale(flow, trialKindFor("flow").needs, { ...around, readings: [reading("2026-11-20T10:00:00Z", value), then] });
  expect(why(95.6).join()).toMatch(/93.*then.*95\.6.*now/);
  expect(why(93.01)).toEqual([]);
});

test("a value taken over from another pair is asked narrowly around in the first round, with its reason", () => {
  const request = {
    printer: ladle,
    spool: saffron,
    kept: {},
    options: {},
    layerHeightMm: 0.2,
    firstLayerHeightMm: 0.2,
  };
  const spanOf = (round: ReturnType<typeof firstRound>) => {
    const values = round.plan.bands.map(({ settings }) => settings.nozzleTemperature!);
    return { low: Math.min(...values), high: Math.max(...values) };
  };
  const usual = spanOf(firstRound("temperature", request));
  const round = firstRound("temperature", { ...request, carried: { nozzleTemperature: 208 } });
  const narrow = spanOf(round);
  expect(narrow.high - narrow.low).toBeLessThan((usual.high - usual.low) * 0.75);
  expect(narrow.low).toBeLessThan(208);
  expect(narrow.high).toBeGreaterThan(208);
  expect(round.notes.join()).toContain("taken over from another pair and not tried here");
});

test("the road is in the order of work, with one thing that is next: what is open and no aside", () => {
  const spool = { ...saffron, id: 1 };
  const road = (kept: ReturnType<typeof keptValue>[], measured: string[], printer = ladle) => {
    const known = { ...around, printer: { ...printer, id: 1 }, spool, kept, trials: [], printing: null };
    const result = { firmware: {}, settings: {}, printer: {} };
    return roadOf({
      rows: benchRows(known),
      measured: measured.map((tune) => ({ tune, measuredAt: "2026-11-01T10:00:00Z", result })),
      printer,
      staleDays: 365,
      now: around.now,
    });
  };
  const nextOf = (steps: ReturnType<typeof road>) => steps.filter(({ isNext }) => isNext).map(({ key }) => key);
  expect(nextOf(road([], []))).toEqual(["extruder-steps"]);
  expect(nextOf(road([], ["extruder-steps"]))).toEqual(["temperature"]);
  expect(nextOf(road([keptValue({})], ["extruder-steps"]))).toEqual(["fan"]);
  const carried = road([keptValue({ carriedFrom: 7 })], ["extruder-steps"]);
  expect(carried.find(({ key }) => key === "temperature")).toMatchObject({ state: "carried", isNext: true });
  for (const printer of printers) {
    const keys = road([], [], printer).map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys).toHaveLength(20);
  }
});
