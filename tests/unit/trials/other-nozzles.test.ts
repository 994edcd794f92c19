/** Nozzles, layers and materials beyond the usual: what is asked can be laid, melted and read. Figures worked out here from the text itself. */
import { firstRound } from "@/core/trials/first-round";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { TrialKindKey } from "@/core/trials";
import { optionsOf } from "@/core/options/option";
import { trialKindFor } from "@/core/trials";
import { Printer } from "@/core/shelf/printer";
import { Spool } from "@/core/shelf/spool";
import { ladle, saffron, trialOfKind } from "../helpers/demo";
import { textOf } from "../helpers/programs";

const withNozzle = (nozzleMm: number): Printer => ({ ...ladle, nozzleMm, highestFlowMm3S: 11 });
const trialOn = (kind: TrialKindKey, printer: Printer, spool: Spool = saffron, layerMm = printer.nozzleMm / 2) => {
  const heights = { layerHeightMm: layerMm, firstLayerHeightMm: layerMm };
  const round = firstRound(kind, { printer, spool, kept: {}, options: {}, ...heights });
  return { ...trialOfKind(kind, printer, spool), ...heights, plan: round.plan, fixed: round.fixed, options: {} };
};
const look = (trial: ReturnType<typeof trialOn>, printer: Printer, spool: Spool = saffron) => {
  const built = buildTrial({ trial, printer, spool });
  return { built, text: textOf(built.bytes), ...inspectTrial({ trial, printer, spool }, built) };
};
/** Area of a bead with round sides, mm² (arithmetic: a rectangle and two half circles). */
const beadMm2 = (w: number, h: number) => (w - h) * h + (Math.PI * h * h) / 4;

describe("layers against the nozzle", () => {
  // Three quarters of the nozzle: common practice, no source. No wider than high: then it is a round strand that touches nothing.
  test.each([
    [0.4, 0.2, 0.2, []],
    [0.4, 0.3, 0.3, []],
    [0.4, 0.32, 0.2, ["warn A layer"]],
    [0.4, 0.2, 0.32, ["warn A first layer"]],
    [0.4, 0.45, 0.2, ["stop A layer"]],
    [0.4, 1, 1, ["stop A layer", "stop A first layer"]],
    [0.25, 0.5, 0.1, ["stop A layer"]],
    [0.6, 0.45, 0.45, []],
    [1, 0.7, 0.7, []],
  ])("nozzle %f, layers of %f, the first %f: %j", (nozzleMm, layerHeightMm, firstLayerHeightMm, said) => {
    const printer = withNozzle(nozzleMm);
    const { findings } = look({ ...trialOn("flow", printer), layerHeightMm, firstLayerHeightMm }, printer);
    const own = findings.filter(({ check }) => check === "layer-too-high");
    expect(own.map(({ severity, where }) => `${severity} ${where}`).sort()).toEqual([...said].sort());
  });
});

describe.each([0.25, 0.4, 0.6, 0.8, 1])("nozzle %f mm on 11 mm³/s", (nozzleMm) => {
  const printer = withNozzle(nozzleMm);
  const area = beadMm2(nozzleMm * 1.125, nozzleMm / 2);

  test("the speeds of a first round lie on both sides of what the hot end melts, or as far as the axes come", () => {
    const { plan } = trialOn("speed", printer);
    const flows = plan.bands.map(({ settings }) => settings.printSpeed! * area);
    expect(flows[0]).toBeLessThanOrEqual(0.75 * 11);
    expect(Math.max(...flows)).toBeLessThanOrEqual(1.35 * 11);
    if (nozzleMm >= 0.6) expect(Math.max(...flows)).toBeGreaterThan(11);
    expect(new Set(flows).size).toBeGreaterThanOrEqual(4);
  });

  test.each(["pressure-advance", "extrusion", "temperature", "bridging"] as const)(
    "a first round of %s asks for no more than that",
    (kind) => {
      const { findings, report } = look(trialOn(kind, printer), printer);
      expect(findings.filter(({ check }) => check === "beyond-flow")).toEqual([]);
      const filamentMm2 = (Math.PI * 1.75 ** 2) / 4;
      for (const { peakFilamentMmS } of report.layers) expect(peakFilamentMmS * filamentMm2).toBeLessThanOrEqual(11.01);
    },
  );

  test("both stretches of a pressure advance trial differ by three times at least", () => {
    const { slowMmS, fastMmS } = optionsOf(trialKindFor("pressure-advance").options, {}, printer);
    expect(Number(fastMmS) / Number(slowMmS)).toBeGreaterThanOrEqual(3);
  });

  test("every band of a temperature tower carries its value or strokes to count", () => {
    const { findings } = look(trialOn("temperature", printer), printer);
    expect(findings.filter(({ check }) => check === "unreadable-bands")).toEqual([]);
  });
});

test("a three-digit value is raised on the post at 0.6 mm", () => {
  const printer = withNozzle(0.6);
  expect(look(trialOn("temperature", printer), printer).built.shape.legend).toBe(
    "The value of each band is raised on the front.",
  );
});

test.each([
  [1.75, 0.2],
  [1.75, 0.1],
  [2.85, 0.2],
])(
  "filament of %f mm, first layer %f: two priming lines of 36 mm³ that do not run into one another",
  (diameterMm, h) => {
    const spool = { ...saffron, diameterMm };
    const { text } = look({ ...trialOn("temperature", ladle, spool), firstLayerHeightMm: h }, ladle, spool);
    const lines = text.split("\n");
    const at = lines.findIndex((line) => line.startsWith("; prime the nozzle"));
    const fed = lines.slice(at, at + 8).flatMap((line) => /^G1 X\S+ E(\S+)/.exec(line)?.[1] ?? []);
    const mm3 = fed.reduce((sum, mm) => sum + Number(mm), 0) * ((Math.PI * diameterMm ** 2) / 4);
    expect(mm3).toBeCloseTo(36, 1);
    const [from, to] = lines.slice(at, at + 8).flatMap((line) => /^G0 .*?Y(\S+)/.exec(line)?.[1] ?? []);
    // Laid flat, each is its volume over its length and height wide.
    expect(Number(to) - Number(from)).toBeGreaterThanOrEqual(36 / 120 / h);
  },
);

test("strands are beads where they lie on their piers, at layers of 0.08 mm too", () => {
  const trial = { ...trialOn("temperature", ladle), layerHeightMm: 0.08, firstLayerHeightMm: 0.2 };
  const { built } = look(trial, ladle);
  const { moves } = built;
  const filamentMm2 = (Math.PI * 1.75 ** 2) / 4;
  const areas = new Set<string>();
  for (let i = 1; i < moves.count; i++) {
    const lengthMm = Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
    // Bridges go at 20 mm/s: on their piers 0.36 × 0.08 mm² of room, over air a round strand of 0.36 mm.
    if (lengthMm > 0.3 && moves.feedMmS[i] === 20 && moves.layer[i] > 0 && moves.filamentMm[i] > 0)
      areas.add(((moves.filamentMm[i] * filamentMm2) / lengthMm).toFixed(3));
  }
  expect([...areas].sort()).toEqual(expect.arrayContaining(["0.029", "0.102"]));
});

test("a label of one temperature says that it leaves little to ask", () => {
  const spool = { ...saffron, labelMinC: 210, labelMaxC: 210 };
  const heights = { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 };
  const { notes } = firstRound("temperature", { printer: ladle, spool, kept: {}, options: {}, ...heights });
  expect(notes.join(" ")).toMatch(/The label says 210 °C only/);
});

test("the value on the piece, in the header and in the line is one", () => {
  const printer = { ...ladle, retractionMm: 0.5 };
  const values = [0.0225, 0.0475];
  const trial = {
    ...trialOn("pressure-advance", printer),
    options: { form: "tower" },
    plan: { baseHeightMm: 0.6, bands: values.map((value) => ({ heightMm: 5, settings: { pressureAdvance: value } })) },
  };
  const { text } = look(trial, printer);
  for (const value of values) {
    expect(text).toMatch(new RegExp(`^M900 K${value} ; cuchara: band \\d/2 advance ${value} from`, "m"));
    expect(text).toMatch(new RegExp(`^; .*advance ${value} s`, "m"));
  }
});
