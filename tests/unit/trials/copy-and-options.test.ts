import { bandOfLayer } from "@/core/heightplan/plan";
import { fanProfile } from "@/core/material/fan";
import { trialKindFor, trialKindKeys } from "@/core/trials";
import { bridgesOfTrial } from "@/core/trials/bridges-of-trial";
import { buildTrial } from "@/core/trials/build";
import { corneringFor, forPrinter, forSpool } from "@/core/trials/copy";
import { leadOf, withLead } from "@/core/trials/earlier";
import { inspectTrial } from "@/core/trials/inspect";
import { checkOptions, optionsOf } from "@/core/options/option";
import { firstRound } from "@/core/trials/first-round";
import { roomOn } from "@/core/trials/room";
import { newTrialSchema } from "@/core/trials/trial-schema";
import { ladle, planOf, printers, saffron, smallTrial, spools, trialOfKind } from "../helpers/demo";

const whisk = printers.find(({ dialect }) => dialect === "deviation")!;

describe("a copy for another printer", () => {
  test("says cornering in the figure that printer has, there and back", () => {
    // δ ≈ 0.4·j²/a: jerk 8 at 1000 mm/s² is 0.0256 mm (common practice, no source).
    const at1000 = { ...whisk, printAccelerationMmS2: 1000 };
    expect(corneringFor({ jerk: 8, fan: 40 }, at1000)).toEqual({ junctionDeviation: 0.0256, fan: 40 });
    expect(corneringFor({ junctionDeviation: 0.0256 }, ladle)).toEqual({ jerk: 8 });
    expect(corneringFor({ jerk: 8 }, ladle)).toEqual({ jerk: 8 });
  });

  test("keeps everything else, and takes a tool that printer has", () => {
    const trial = trialOfKind("cornering", ladle, saffron, { tool: 1 });
    const copy = forPrinter(trial, whisk);
    expect(copy.tool).toBe(0);
    expect(copy.plan.bands.map(({ heightMm }) => heightMm)).toEqual(trial.plan.bands.map(({ heightMm }) => heightMm));
    const built = buildTrial({ trial: copy, printer: whisk, spool: saffron });
    expect(
      inspectTrial({ trial: copy, printer: whisk, spool: saffron }, built).findings.filter(
        ({ severity }) => severity === "stop",
      ),
    ).toEqual([]);
  });
});

describe("a copy for another spool", () => {
  const asa = spools.find(({ material }) => material === "ASA")!;
  const trial = trialOfKind("fan", ladle, saffron, { name: trialKindFor("fan").question(saffron, {}) });
  const change = { from: { spool: saffron, kept: {} }, to: asa, kept: {} };

  test("is held as that spool wants, kept values first, and asks of it by name", () => {
    const held = { ...trial, fixed: { nozzleTemperature: 210, bedTemperature: saffron.bedC } };
    const copy = forSpool(held, ladle, change);
    expect(copy.fixed).toEqual({
      // The middle of the label's 235 to 260 °C, to the next 5 °C.
      nozzleTemperature: 250,
      bedTemperature: asa.bedC,
    });
    expect(copy.name).toBe(trialKindFor("fan").question(asa, {}));
    expect(forSpool(held, ladle, { ...change, kept: { bedTemperature: 95 } }).fixed.bedTemperature).toBe(95);
  });

  test("what was chosen otherwise stays, and so do the plan and a name of its own", () => {
    const held = { ...trial, name: "My own", fixed: { nozzleTemperature: 203, bedTemperature: 47 } };
    expect(forSpool(held, ladle, change)).toEqual(held);
  });
});

describe("options", () => {
  const { options } = trialKindFor("bridging");

  test("usual values stand in for what is missing, and what is out of range is held", () => {
    expect(optionsOf(options, {}, ladle)).toMatchObject({ coolLayers: 3, speed1: 10, flow2: 95, fan3: 100 });
    expect(optionsOf(options, { coolLayers: 999, speed1: "fast" }, ladle)).toMatchObject({
      coolLayers: 40,
      speed1: 10,
    });
  });

  test.each([
    ["bridging", { hat: 1 }, /“hat” is not an option/],
    ["bridging", { coolLayers: 99 }, /must be 0 to 40 layers/],
    ["flow", { hat: 1 }, /has no options/],
    ["fan", { stepPercent: "7" }, /one of 5, 10, 20/],
    ["extrusion", { feed: "yes" }, /true or false/],
  ] as const)("%s %j is refused", (kind, given, sentence) => {
    const checked = checkOptions(trialKindFor(kind).options, given);
    expect(checked.ok ? "" : checked.message).toMatch(sentence);
    expect(checked.ok ? "" : checked.field).toMatch(/^options\./);
  });

  test("the usual options of every kind pass their own check", () => {
    for (const key of trialKindKeys) {
      const { options: own } = trialKindFor(key);
      expect(checkOptions(own, optionsOf(own, {}, ladle)).ok).toBe(true);
    }
  });

  test.each([
    [{ tool: -1 }, /Tools count from 0/],
    [{ tool: 1.5 }, /whole number/],
    [{ options: { a: [1] } }, /number, a text, or true or false/],
  ])("a trial with %j is refused", (wrong, sentence) => {
    const parsed = newTrialSchema.safeParse({ kind: "fan", printerId: 1, spoolId: 1, ...wrong });
    expect(parsed.success ? "" : parsed.error.issues[0].message).toMatch(sentence);
  });
});

describe("a nozzle that is told early", () => {
  const low = smallTrial({ plan: planOf([225, 205, 185], 1.6) });
  const spool = { ...saffron, labelMinC: 180 };
  const seen = (trial: typeof low) => {
    const input = { trial, printer: { ...ladle, heaterFallCPerS: 0.4 }, spool };
    const built = buildTrial(input);
    return { built, ...inspectTrial(input, built) };
  };

  test("changes that many layers before its band, never the first", () => {
    const { built, byLayer } = seen(withLead(low, 4));
    const second = built.bands[1].firstLayer;
    expect(Array.from(byLayer.nozzleTemperature.subarray(second - 6, second + 1))).toEqual([
      225, 225, 205, 205, 205, 205, 205,
    ]);
    expect(byLayer.nozzleTemperature[0]).toBe(225);
    expect(bandOfLayer(built.bands, second)!.number).toBe(2);
  });

  test("bands that settle too late are found, and both ways to mend it are offered", () => {
    const before = seen(low);
    const finding = before.findings.find(({ check }) => check === "too-low-to-settle")!;
    const mends = [finding.mend!, ...(finding.others ?? [])];
    expect(mends.map(({ label }) => label).join()).toMatch(/Make every band \d+ mm high/);
    expect(mends.map(({ label }) => label).join()).toMatch(/Tell the nozzle \d+ layers? early/);
    const earlier = mends.find(({ label }) => label.startsWith("Tell"))!;
    const after = seen({ ...low, ...earlier.trial });
    expect(Math.min(...after.bandSettled)).toBeGreaterThan(Math.min(...before.bandSettled));
    expect(Math.min(...after.bandSettled)).toBeCloseTo(before.lead!.share, 1);
  });

  test("in bridging that is the option by which it cools before the span", () => {
    const trial = trialOfKind("bridging", ladle, saffron);
    expect(leadOf(trial)).toBe(3);
    expect(withLead(trial, 9).options.coolLayers).toBe(9);
    expect(leadOf(withLead(low, 3))).toBe(3);
  });
});

test("a fan comes to its speed as a first-order lag does: 1 − 1/e after one run-up time", () => {
  const layers = [{ seconds: 2 }, { seconds: 2 }, { seconds: 20 }];
  const blown = fanProfile(layers, [100, 100, 0], 2);
  expect(blown[0]).toBeCloseTo(100 * (1 - Math.exp(-1)), 3);
  expect(blown[1]).toBeCloseTo(100 * (1 - Math.exp(-2)), 3);
  expect(blown[2]).toBeLessThan(0.01);
  expect(Array.from(fanProfile(layers, [NaN, 40, 60], 0))).toEqual([0, 40, 60]);
});

test("the room on a round bed is the largest square in it, margins taken off", () => {
  const sieve = printers.find(({ bedShape }) => bedShape === "round")!;
  // A square in a circle of 180 mm has sides of 180/√2 (geometry).
  expect(roomOn(sieve).widthMm).toBeCloseTo(180 / Math.SQRT2 - 16, 6);
  expect(roomOn(ladle)).toEqual({ widthMm: 204, depthMm: 188 });
});

test("a speed says the flow it asks for at the trial's own layer height", () => {
  // Bead 0.45 × 0.20 mm: 0.081416 mm², 0.45 × 0.30 mm: 0.115686 mm² (arithmetic); times 100 mm/s.
  const { bandNote } = trialKindFor("speed");
  expect(bandNote!({ printSpeed: 100 }, ladle, 0.2)).toBe("8.1 mm³/s, on 90 % of a side");
  // Speeding up and slowing down take v²/a = 100²/1000 = 10 mm of the 100 mm together (uniform acceleration).
  expect(bandNote!({ printSpeed: 100 }, ladle, 0.3)).toBe("11.6 mm³/s, on 90 % of a side");
});

test("what is said of a halved fan is true of the fan in force, whether the spool or the pair gave the whole", () => {
  const said = (kept: { fan?: number }, change: { fan?: number } = {}) => {
    const { plan, fixed } = firstRound("retraction", {
      printer: ladle,
      spool: saffron,
      kept,
      options: {},
      layerHeightMm: 0.2,
      firstLayerHeightMm: 0.2,
    });
    const input = {
      trial: trialOfKind("retraction", ladle, saffron, { plan, fixed: { ...fixed, ...change } }),
      printer: ladle,
      spool: saffron,
      kept,
    };
    return inspectTrial(input, buildTrial(input)).findings.map(({ message }) => message);
  };
  expect(said({})).toContain(
    "The fan runs at 50 %, half of the 100 % that the spool wants: full cooling hides stringing.",
  );
  expect(said({ fan: 40 })).toContain(
    "The fan runs at 20 %, half of the 40 % that the pair keeps: full cooling hides stringing.",
  );
  // A fan chosen by hand is half of nothing.
  expect(said({}, { fan: 30 }).join()).not.toMatch(/half of/);
});

test("the layers over air of a bridging trial go onto a file: its speeds as shares of the file's own, by hand", () => {
  const options = { coolLayers: 4, speed1: 12, flow1: 85, fan1: 100, speed2: 24 };
  const { layersBefore, layers } = bridgesOfTrial(trialOfKind("bridging", ladle, saffron, {}, options), ladle, 48);
  expect(layersBefore).toBe(4);
  // 12 of 48 mm/s are a quarter, 24 a half; the third is laid as usual: 30 mm/s, 100 %.
  expect(layers).toEqual([
    { feedPercent: 25, flowPercent: 85, fan: 100 },
    { feedPercent: 50, flowPercent: 95, fan: 100 },
    { feedPercent: 63, flowPercent: 100, fan: 100 },
  ]);
});
