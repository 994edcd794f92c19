/** Programs that do harm, or look as if they did, each as somebody could write it. */
import { Finding } from "@/core/findings/finding";
import { MoveKind } from "@/core/gcode/moves";
import { Printer } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { TrialKindKey } from "@/core/trials";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { Trial } from "@/core/trials/trial";
import { checkFile } from "@/core/checks/file";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { headOf } from "@/core/shelf/printer";
import { readProgram } from "@/core/gcode/read";
import { ladle, saffron, smallTrial, trialOfKind } from "../helpers/demo";
import { squareTube, textOf } from "../helpers/programs";

const look = (text: string, printer = ladle) =>
  checkFile(reportOf(readProgram(text), limitsFor(printer), headOf(printer)).report, printer);
const stops = (findings: Finding[]) => findings.filter(({ severity }) => severity === "stop");
const said = (findings: Finding[]) => findings.map(({ severity, check }) => `${severity}: ${check}`);

function inspect(trial: Trial, printer: Printer = ladle) {
  const input = { trial, printer, spool: saffron };
  const built = buildTrial(input);
  return { built, text: textOf(built.bytes), ...inspectTrial(input, built) };
}

/** A trial of a kind in its first round, its first two bands. */
function low(kind: TrialKindKey, printer: Printer, change: Partial<Trial> = {}): Trial {
  const trial = trialOfKind(kind, printer, saffron, change);
  return { ...trial, plan: { ...trial.plan, bands: trial.plan.bands.slice(0, 2) } };
}

describe("the retraction matrix is what its own check says it is", () => {
  const layers = [0.3, 0.5, 0.75];
  test.each(
    [0.4, 0.5, 0.6, 0.8].flatMap((nozzleMm) =>
      layers.map((share) => [nozzleMm, Math.round(nozzleMm * share * 100) / 100] as const),
    ),
  )("nozzle %d mm, layers of %d mm", (nozzleMm, layerHeightMm) => {
    const printer = printerSchema.parse({ ...ladle, nozzleMm });
    const heights = { layerHeightMm, firstLayerHeightMm: layerHeightMm };
    const trial = trialOfKind("retraction-matrix", printer, saffron, heights);
    const one = { ...trial, plan: { ...trial.plan, bands: trial.plan.bands.slice(0, 1) } };
    expect(stops(inspect(one, printer).findings)).toEqual([]);
  });
});

describe("what start and end lines do", () => {
  test.each(["retraction", "fan"] as const)(
    "the trial's tool is chosen, whatever tool they leave in use: %s",
    (kind) => {
      const twoTools = printerSchema.parse({ ...ladle, tools: 2 });
      const usual = inspect(low(kind, twoTools, { tool: 1 }), twoTools);
      expect(usual.text).toMatch(/^T1$[^]*^G28$/m);
      expect(usual.report.facts.layingTools).toEqual([1]);
      const other = { ...twoTools, startLines: `${twoTools.startLines}\nT0` };
      const turned = inspect(low(kind, twoTools, { tool: 1 }), other);
      expect([turned.report.facts.layingTools, stops(turned.findings)]).toEqual([[1], []]);
    },
  );

  test.each<[string, Partial<Printer>, string]>([
    [
      "nothing waits for the nozzle",
      { startLines: "G28\nM140 S{{bedFirst}}\nM104 S{{nozzleFirst}}\nG92 E0" },
      "warn: unwaited-heat",
    ],
    ["the nozzle is fed cold", { startLines: `G28\nG92 E0\nG1 E30 F200\n${ladle.startLines}` }, "stop: cold-extrusion"],
    ["a way leads far off the bed", { endLines: "M104 S0\nM140 S0\nM107\nG0 X900 Y-300\nM84" }, "stop: outside-bed"],
    ["a purge is hotter than allowed", { startLines: `M109 S400\n${ladle.startLines}` }, "stop: beyond-limits"],
  ])("%s", (_, lines, finding) => {
    expect(said(inspect(smallTrial(), { ...ladle, ...lines }).findings)).toContain(finding);
  });

  test("a purge of a hot nozzle is nobody's business", () => {
    expect(inspect(smallTrial(), { ...ladle, startLines: `${ladle.startLines}\nG1 E30 F200` }).findings).toEqual([]);
  });
});

test("without a base, what priming draws back is what the first layer gets back: nothing is laid dry", () => {
  const printer = printerSchema.parse({ ...ladle, retractionMm: 6 });
  const trial = trialOfKind("retraction", printer, saffron);
  const bands = [0.5, 1].map((retractionLength) => ({ heightMm: 4, settings: { retractionLength } }));
  const { tables, report } = inspect({ ...trial, plan: { baseHeightMm: 0, bands } }, printer);
  const { moves } = tables;
  const dry = Array.from({ length: moves.count }, (_, i) => i).filter(
    (i) => moves.kind[i] === MoveKind.travel && moves.filamentMm[i] > 1e-4,
  );
  expect([dry, report.layers.length > 10]).toEqual([[], true]);
});

test("a hot end with next to no flow is slowed, and never told to stand: no feed of 0", () => {
  const weak = printerSchema.parse({ ...ladle, nozzleMm: 2, highestFlowMm3S: 1.5 });
  const { text } = inspect(low("temperature", weak, { layerHeightMm: 0.4, firstLayerHeightMm: 0.4 }), weak);
  expect(text).not.toMatch(/\bF0(\.0*)?\b/);
  expect(text).toMatch(/G1 X/);
});

test("the ring beside the tracks stays within the depth of a bed that is wider than deep", () => {
  const wide = printerSchema.parse({ ...ladle, bedWidthMm: 220, bedDepthMm: 60 });
  const { findings, report } = inspect(trialOfKind("extrusion", wide, saffron), wide);
  expect(findings.filter(({ check }) => check === "outside-bed")).toEqual([]);
  expect(report.bounds!.maxY).toBeLessThanOrEqual(60);
});

describe("an opened file meets the same limits", () => {
  const tube = (start: string[], shift = 0) =>
    squareTube({ layers: 5, opens: (i) => `; layer ${i}`, start }).replace(
      /X(\d+)/g,
      (_, x: string) => `X${Number(x) + shift}`,
    );

  test("too hot, off the bed, and a bed that melts", () => {
    const off = look(tube(["M104 S200", "M140 S180", "G28", "M109 S200"], 500));
    expect(said(off)).toEqual(expect.arrayContaining(["stop: outside-bed", "stop: beyond-limits"]));
    expect(off.map(({ message }) => message).join(" ")).toMatch(/180 °C.*100 °C/);
  });

  test("a purge above the hottest nozzle counts though no layer is laid at it", () => {
    const hot = look(tube(["M109 S400", "G28", "M83", "G1 X5 Y5 Z0.3 F6000", "G1 X50 E10 F900", "M109 S200"]));
    expect(stops(hot).map(({ message }) => message)).toEqual([expect.stringMatching(/400 °C.*260 °C/)]);
  });

  test("heat nobody waits for, heaters that stay on", () => {
    expect(said(look(tube(["M104 S200", "G28"])))).toEqual(["warn: unwaited-heat"]);
    expect(said(look(tube(["G28"])))).toEqual(["stop: cold-extrusion"]);
    expect(
      said(look(tube(["M140 S60", "M109 S200", "G28"]).replace("M104 S0\nM140 S0\n", ""))).filter((one) =>
        one.includes("left-on"),
      ),
    ).toEqual(["stop: left-on", "stop: left-on"]);
  });

  test("what a macro of the printer's own may do is not held against the file", () => {
    const [finding] = look(tube(["START_PRINT NOZZLE=200 BED=60"]));
    expect(finding).toMatchObject({ check: "cold-extrusion", severity: "warn" });
    expect(finding.message).toMatch(/not known here may heat/);
  });
});

test("what a macro at the end may switch off is doubted, not forbidden; one at the start excuses nothing", () => {
  const tube = squareTube({ layers: 4, start: ["START_ALL BED=60", "M104 S210", "G28", "M109 S210"] });
  const body = tube.slice(0, tube.indexOf("M104 S0"));
  const leftOnIn = (text: string) => look(text).filter(({ check }) => check === "left-on");
  expect(said(leftOnIn(body))).toContain("stop: left-on");
  const ended = leftOnIn(`${body}END_ALL\n`);
  expect(stops(ended)).toEqual([]);
  expect(ended[0].message).toMatch(/not known here may do that/);
});

test("a file that lays with a tool the printer has not is told", () => {
  const tube = squareTube({ layers: 4, opens: (i) => `; deck ${i}` }).replace(
    "; deck 2\n",
    "; deck 2\nT1\nM109 S210\n",
  );
  expect(said(look(tube))).toContain("warn: tools-beyond");
  expect(said(look(tube, { ...ladle, tools: 2 }))).not.toContain("warn: tools-beyond");
});
