import { readSpots, wrongSpots } from "@/core/checks/of-trials/spots-differ";
import { laysMaterial, MoveKind } from "@/core/gcode/moves";
import { readProgram } from "@/core/gcode/read";
import { comparePlan, settingsByLayer } from "@/core/heightplan/proof";
import { bedCentre, outsideBedMm, Printer } from "@/core/shelf/printer";
import { TrialKindKey, trialKindKeys } from "@/core/trials";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { OptionValues } from "@/core/options/option";
import { ladle, planOf, printers, saffron, spools, trialOfKind } from "../helpers/demo";
import { textOf } from "../helpers/programs";

/** Kinds in all the forms they have. */
const forms: [TrialKindKey, OptionValues][] = [
  ...trialKindKeys.map((kind): [TrialKindKey, OptionValues] => [kind, {}]),
  ["retraction", { vary: "speed" }],
  ["pressure-advance", { form: "tower" }],
];

function made(kind: TrialKindKey, printer: Printer, options: OptionValues = {}, short = false) {
  const whole = trialOfKind(kind, printer, saffron, {}, options);
  const { bands } = whole.plan;
  const some = [0, Math.floor(bands.length / 2), bands.length - 1].flatMap((at, i, all) =>
    all.indexOf(at) === i ? [bands[at]] : [],
  );
  const trial = short ? { ...whole, plan: { ...whole.plan, bands: some } } : whole;
  const input = { trial, printer, spool: saffron };
  const built = buildTrial(input);
  return { ...input, built, seen: inspectTrial(input, built) };
}

const selfRetracting: Printer = { ...ladle, name: "Self-retracting", firmwareRetraction: true };
const thimble: Printer = { ...ladle, name: "Thimble", bedWidthMm: 120, bedDepthMm: 120, buildHeightMm: 30 };
const saucer: Printer = { ...printers[4], name: "Saucer", bedWidthMm: 140, buildHeightMm: 28 };

const every = forms;
const wide = forms.filter(([kind]) =>
  ["temperature", "retraction-matrix", "speed", "bridging", "extrusion"].includes(kind),
);
const drawn = forms.filter(([kind]) => kind.startsWith("retraction"));

/** The demo's five printers with every kind; a small bed, a low round one and a firmware that draws back with what they change. */
const bench: [string, Printer, typeof forms][] = [
  ...printers.map((printer): [string, Printer, typeof forms] => [printer.name, printer, every]),
  [thimble.name, thimble, wide],
  [saucer.name, saucer, wide],
  [selfRetracting.name, selfRetracting, drawn],
];

describe.each(bench)("on %s", (_, printer, tried) => {
  test.each(tried)("%s %j builds, passes its checks, and its proof is its plan", (kind, options) => {
    // Whole on the first printer; elsewhere the bottom, the middle and the top band are enough and take less time.
    const { built, seen, trial } = made(kind, printer, options, printer !== ladle && printer.buildHeightMm > 100);
    const stops = seen.findings.filter(({ severity }) => severity === "stop");
    if (kind === "pressure-advance" && printer.dialect === "valve") {
      expect(stops.map(({ message }) => message).join()).toMatch(/no command for pressure advance/);
      return;
    }
    expect(stops).toEqual([]);
    // Tables and values are read back from the finished text by the inspection.
    const { tables, byLayer } = seen;
    expect(comparePlan(tables.layers, byLayer, built.followed.planned, printer)).toEqual([]);
    let outside = -Infinity;
    for (let i = 0; i < tables.moves.count; i++) {
      if (laysMaterial(tables.moves.kind[i])) {
        outside = Math.max(outside, outsideBedMm(printer, tables.moves.x[i], tables.moves.y[i]));
      }
    }
    expect(outside).toBeLessThanOrEqual(0.01);
    if (printer.buildHeightMm < 100 && kind === "temperature") {
      expect(seen.findings.map(({ check }) => check)).toContain("fitted");
    }
    const { sideBySide } = trial.plan;
    if (sideBySide) {
      const readings = readSpots(tables, sideBySide, built.shape.spots!, built.slices, bedCentre(printer));
      expect(new Set(readings.map(({ spot }) => spot)).size).toBe(sideBySide.values.length);
      expect(wrongSpots(readings, sideBySide, printer, built.bands[0].firstLayer)).toEqual([]);
    }
  });
});

describe("first rounds", () => {
  const valuesOf = (kind: TrialKindKey, printer = ladle, options: OptionValues = {}) => {
    const { plan } = trialOfKind(kind, printer, saffron, {}, options);
    return plan.bands.map(({ settings }) => Object.values(settings)[0]);
  };
  test.each<[TrialKindKey, OptionValues, (number | undefined)[]]>([
    ["fan", {}, [0, 20, 40, 60, 80, 100]],
    ["fan", { stepPercent: "10" }, [0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100]],
    ["retraction", {}, [0.5, 1, 2, 3, 4, 5, 6, 7, 8]],
    ["retraction", { vary: "speed" }, [10, 20, 30, 40, 50]],
    ["flow", {}, [90, 95, 100, 105, 110]],
    ["speed", {}, [30, 55, 80, 105, 130, 155]],
    ["acceleration", {}, [500, 750, 1000, 1500, 2000, 3000]],
    ["cornering", {}, [4, 6, 8, 12, 16, 24]],
  ])("%s %j tries %j", (kind, options, values) => {
    expect(valuesOf(kind, ladle, options)).toEqual(values);
  });

  test("a fan without duty is off and on, and a band of the fan trial is at least 5 mm high", () => {
    const kettle = printers.find(({ dialect }) => dialect === "valve")!;
    expect(valuesOf("fan", kettle)).toEqual([0, 100]);
    const low = trialOfKind("fan", { ...ladle, buildHeightMm: 60 }, saffron, {}, { stepPercent: "5" });
    for (const { heightMm } of low.plan.bands) expect(heightMm).toBeGreaterThanOrEqual(5);
  });

  test("kept values are held fixed", () => {
    const kind = "acceleration";
    const { fixed } = trialOfKind(kind, ladle, saffron);
    expect(fixed).toMatchObject({ nozzleTemperature: 210, bedTemperature: 60, fan: 100 });
    expect(fixed.acceleration).toBeUndefined();
  });

  test("retraction trials run at half fan; bridging holds the nozzle warm below the spans", () => {
    expect(trialOfKind("retraction", ladle, saffron).fixed.fan).toBe(50);
    expect(trialOfKind("bridging", ladle, saffron).fixed.nozzleTemperature).toBe(210);
  });
});

describe("what a trial does to the firmware", () => {
  const linesOf = (kind: TrialKindKey, printer = ladle, short = false) =>
    textOf(made(kind, printer, {}, short).built.bytes).split("\n");

  test("is set back behind the print, so that no later print is spoiled", () => {
    const end = (kind: TrialKindKey, printer?: Printer) => {
      const lines = linesOf(kind, printer, true);
      return lines.slice(lines.indexOf("; the print ends here"));
    };
    expect(end("acceleration")).toContain("M204 P1000");
    expect(end("cornering")).toContain("M205 X8 Y8");
    expect(end("flow")).toContain("M221 S100");
    expect(end("pressure-advance")).toContain("M900 K0");
    // Its speed is the printer's own from the first, so it is not said.
    expect(end("retraction", selfRetracting).filter((line) => line.startsWith("M207"))).toEqual(["M207 S4"]);
  });

  test("acceleration leaves travel and retraction alone", () => {
    const said = linesOf("acceleration").filter((line) => line.startsWith("M204"));
    // Six bands, and the printer's own again.
    expect(said.length).toBe(7);
    for (const line of said) expect(line).toMatch(/^M204 P\d+( ;|$)/);
  });

  test("where the firmware has one acceleration for all moves, that is said", () => {
    const sieve = printers.find(({ dialect }) => dialect === "keyword")!;
    const said = made("acceleration", sieve, {}, true).seen.findings.map(({ check }) => check);
    expect(said).toContain("shared-acceleration");
    expect(made("acceleration", ladle, {}, true).seen.findings).toEqual([]);
  });

  test("the speeds of a pressure advance trial are never slowed", () => {
    const { built } = made("pressure-advance", ladle, { form: "tower", slowMmS: 60, fastMmS: 150 }, true);
    const feeds = new Set<number>();
    const { moves, layerStarts } = built;
    for (let i = layerStarts[10]; i < layerStarts[11]; i++)
      if (laysMaterial(moves.kind[i])) feeds.add(moves.feedMmS[i]);
    expect([...feeds]).toEqual(expect.arrayContaining([60, 150]));
  });

  test("a firmware that retracts gets G10 and G11 and no E move of its own", () => {
    const lines = linesOf("retraction", selfRetracting);
    expect(lines.filter((line) => line === "G10").length).toBeGreaterThan(500);
    // But for what every print gives back at its start and leaves at its end.
    expect(lines.filter((line) => /^G1 E-/.test(line))).toEqual(["G1 E-1 F2100"]);
  });
});

describe("the bridging trial", () => {
  const { built, seen } = made("bridging", ladle);
  const { nozzleTemperature, flowFactor, fan } = seen.byLayer;

  test("cools the nozzle before each span, lays three layers slow and lean, and warms again", () => {
    const band = built.bands[2];
    const deck = band.lastLayer - 2;
    expect(Array.from(nozzleTemperature.subarray(deck - 5, deck + 4))).toEqual([
      ...[210, 210],
      ...new Array(6).fill(200),
      210,
    ]);
    expect(Array.from(flowFactor.subarray(deck - 1, deck + 4))).toEqual([100, 90, 95, 100, 100]);
    // Only what lies over air is slow: the posts beside it are laid as ever.
    const { moves, layerStarts } = built;
    const feedsOf = (layer: number, kind: number) => {
      const feeds = new Set<number>();
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++)
        if (moves.kind[i] === kind) feeds.add(moves.feedMmS[i]);
      return [...feeds];
    };
    expect(feedsOf(deck, MoveKind.bridge)).toEqual([10]);
    expect(Math.min(...feedsOf(deck, MoveKind.outerWall))).toBeGreaterThan(20);
    expect(Math.max(...feedsOf(deck + 1, MoveKind.solid))).toBeLessThanOrEqual(20);
    expect(Math.max(...feedsOf(deck + 2, MoveKind.solid))).toBeLessThanOrEqual(30);
    expect(fan[deck]).toBe(100);
  });

  test("the strands run straight over every span", () => {
    const { moves } = built;
    const deckLayer = built.bands[0].lastLayer - 2;
    const spans = new Set<number>();
    for (let i = 1; i < moves.count; i++) {
      if (moves.layer[i] !== deckLayer || moves.kind[i] !== 9) continue;
      spans.add(Math.floor(Math.abs(moves.x[i] - moves.x[i - 1]) / 15) * 15);
    }
    for (const span of [15, 30, 45, 60]) expect([...spans]).toContain(span);
  });
});

test("the extrusion trial feeds without motion behind the print, at the bed's edge, and waits for a person before and after", () => {
  const lines = textOf(made("extrusion", ladle).built.bytes).split("\n");
  const feed = lines.indexOf("G1 E100 F100");
  expect(lines.slice(feed - 4, feed + 3)).toEqual([
    "G0 Z50 F600",
    "G0 X110 Y8 F3000",
    "M117 Mark at 120 mm, then go on",
    "M0",
    "G1 E100 F100",
    "M117 100 mm fed: measure to the mark",
    "M0",
  ]);
  expect(lines.slice(feed).some((line) => /^G1 .*X/.test(line))).toBe(false);
});

test("a form without values would print nothing, and that is a stop", () => {
  const tower = trialOfKind("pressure-advance", ladle, saffron, {}, { form: "tower" });
  const trial = { ...tower, options: { form: "lines" } };
  const input = { trial, printer: ladle, spool: saffron };
  const { findings } = inspectTrial(input, buildTrial(input));
  expect(findings).toContainEqual(expect.objectContaining({ check: "nothing-laid", severity: "stop" }));
});

test("two settings vary in one plan, and both are proved", () => {
  const plan = {
    baseHeightMm: 1,
    bands: [
      { heightMm: 6, settings: { nozzleTemperature: 215, fan: 40 } },
      { heightMm: 6, settings: { nozzleTemperature: 205, fan: 80 }, lines: ["M117 Second band"] },
    ],
  };
  const trial = trialOfKind("temperature", ladle, spools[0], { plan });
  const built = buildTrial({ trial, printer: ladle, spool: spools[0] });
  const text = textOf(built.bytes);
  expect(text).toContain("M104 S205 ; cuchara: band 2/2 nozzle 205 from 7 mm");
  expect(text).toContain("M106 S204 ; cuchara: band 2/2 fan 80 from 7 mm");
  expect(text).toContain("M117 Second band ; cuchara: band 2/2 line from 7 mm");
  const { byLayer } = settingsByLayer(readProgram(text));
  expect([byLayer.nozzleTemperature[20], byLayer.fan[20]]).toEqual([215, 40]);
  expect([byLayer.nozzleTemperature[50], byLayer.fan[50]]).toEqual([205, 80]);
});

test("travel speed varies by the moves alone, and is proved from them", () => {
  const bands = [60, 180].map((travelSpeed) => ({ heightMm: 6, settings: { travelSpeed } }));
  const trial = trialOfKind("temperature", ladle, saffron, { plan: { baseHeightMm: 1, bands } });
  const built = buildTrial({ trial, printer: ladle, spool: saffron });
  const { findings } = inspectTrial({ trial, printer: ladle, spool: saffron }, built);
  expect(findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  // What the text itself says of the ways between: mm/min, 60 of them a second.
  const [, low, high] = textOf(built.bytes).split(/^; layer (?:20|50) of .*$/m);
  const feeds = (text: string) => new Set([...text.matchAll(/^G0 X.* F(\d+)/gm)].map(([, feed]) => Number(feed)));
  expect([[...feeds(low.split(/^; layer 3\d of/m)[0])], [...feeds(high.split(/^; layer 6\d of/m)[0])]]).toEqual([
    [3600],
    [10800],
  ]);
});

test("a trial for the second tool speaks to the second tool, and both are off at the end", () => {
  const twin = printers.find(({ tools }) => tools > 1)!;
  const trial = trialOfKind("temperature", twin, saffron, { tool: 1, plan: planOf([225, 220, 215]) });
  const built = buildTrial({ trial, printer: twin, spool: saffron });
  const { findings } = inspectTrial({ trial, printer: twin, spool: saffron }, built);
  expect(findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  const text = textOf(built.bytes);
  expect(text).toMatch(/\nT1\n/);
  expect(text).toMatch(/M104 S220 T1 ; cuchara/);
  expect(text).not.toMatch(/M104 S220 T0/);
  const wrong = trialOfKind("temperature", ladle, saffron, { tool: 1, plan: planOf([220, 215]) });
  const seen = inspectTrial(
    { trial: wrong, printer: ladle, spool: saffron },
    buildTrial({ trial: wrong, printer: ladle, spool: saffron }),
  );
  expect(seen.findings[0]).toMatchObject({ check: "wrong-tool", severity: "stop" });
});

describe("the fan on bridges beside a fixed fan", () => {
  const tower = (fan: number, overAir?: string) => {
    const trial = trialOfKind("temperature", ladle, saffron);
    const options: OptionValues = overAir === undefined ? {} : { overAir };
    const input = { trial: { ...trial, options, fixed: { ...trial.fixed, fan } }, printer: ladle, spool: saffron };
    const built = buildTrial(input);
    return { text: textOf(built.bytes), passed: inspectTrial(input, built).passed };
  };
  // Duties by arithmetic: 255 · 0.4 = 102, 255 · 0.8 = 204.
  test.each([
    [undefined, "M106 S204 ; cuchara: over air", "fan on bridges 80 %"],
    ["full", "M106 S255 ; cuchara: over air", "fan on bridges 100 %"],
  ])("%s: it is said in the header, beside its line and among the checks", (choice, line, said) => {
    const { text, passed } = tower(40, choice);
    expect(text).toContain(`\n${line}\n`);
    expect(text).toMatch(new RegExp(`^; fixed .*fan 40 %, ${said}$`, "m"));
    expect(passed).toContain(`Bridges are cooled more: ${said}.`);
  });

  test("the same as the rest leaves the fan alone", () => {
    const { text, passed } = tower(40, "same");
    expect(text).not.toContain("over air");
    expect([...text.matchAll(/^M106 S(\d+)/gm)].map(([, duty]) => duty)).toEqual(["102"]);
    expect(passed.join()).not.toContain("Bridges are cooled");
  });
});
