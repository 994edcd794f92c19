/** The first layers' own values, read from the finished text line by line. */
import { Spool } from "@/core/shelf/spool";
import { TrialKindKey } from "@/core/trials";
import { BuiltTrial, buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { Trial } from "@/core/trials/trial";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

// 230 then 215 °C, bed 65 then 60 °C, half the fan from layer 3: as it is done (common practice, no source).
const spool: Spool = {
  ...saffron,
  firstLayers: 2,
  firstLayersNozzleHotterC: 15,
  firstLayersBedHotterC: 5,
  fanFromLayer: 3,
};
const fixed = { nozzleTemperature: 215, bedTemperature: 60, fan: 50 };

function built(kind: TrialKindKey, change: (trial: Trial) => Partial<Trial> = () => ({ fixed })) {
  const trial = trialOfKind(kind, ladle, spool);
  const input = { trial: { ...trial, ...change(trial) }, printer: ladle, spool };
  return { input, built: buildTrial(input) };
}

interface InForce {
  nozzle: number;
  bed: number;
  fan: number;
}

/** What is in force when each layer's first material is laid, by the layer's height: plain reading of M104, M109, M140, M190, M106 and Z. */
function inForceByLayer(bytes: Uint8Array): InForce[] {
  const now: InForce = { nozzle: NaN, bed: NaN, fan: NaN };
  const layers = new Map<number, InForce>();
  let z = 0;
  let ended = false;
  for (const line of new TextDecoder().decode(bytes).split("\n")) {
    if (line.includes("the print ends here")) ended = true;
    const code = line.split(";")[0];
    const value = (letter: string) => Number(new RegExp(`${letter}(-?[\\d.]+)`).exec(code)?.[1] ?? NaN);
    if (/^M10[49]\b/.test(code)) now.nozzle = value("S");
    if (/^M1[49]0\b/.test(code)) now.bed = value("S");
    if (/^M106\b/.test(code)) now.fan = value("S");
    if (/^M107\b/.test(code)) now.fan = 0;
    if (/^G[01]\b/.test(code) && code.includes("Z")) z = value("Z");
    const lays = /^G1\b/.test(code) && /[XY]/.test(code) && value("E") > 0;
    // The line at the bed's edge is laid at the first layer's height, too.
    if (lays && !ended && !layers.has(z)) layers.set(z, { ...now });
  }
  return [...layers.entries()].sort(([a], [b]) => a - b).map(([, values]) => values);
}

test("nozzle and bed are hotter on so many layers, and the fan starts at its layer", () => {
  const layers = inForceByLayer(built("retraction").built.bytes);
  expect(layers.slice(0, 5)).toEqual([
    { nozzle: 230, bed: 65, fan: 0 },
    { nozzle: 230, bed: 65, fan: 0 },
    { nozzle: 215, bed: 60, fan: 128 },
    { nozzle: 215, bed: 60, fan: 128 },
    { nozzle: 215, bed: 60, fan: 128 },
  ]);
  expect(layers.at(-1)).toEqual(layers[4]);
});

test("where the temperature is asked about, its first band holds from the bed on", () => {
  const { input, built: made } = built("temperature", ({ fixed: own }) => ({ fixed: { ...own, bedTemperature: 60 } }));
  const layers = inForceByLayer(made.bytes);
  const first = input.trial.plan.bands[0].settings.nozzleTemperature;
  expect(layers[0]).toEqual({ nozzle: first, bed: 65, fan: 0 });
  expect(layers[2]).toMatchObject({ nozzle: first, bed: 60 });
});

test("where the fan is asked about, its first band comes when it comes", () => {
  const late: Spool = { ...spool, fanFromLayer: 20 };
  const trial = trialOfKind("fan", ladle, late);
  const layers = inForceByLayer(buildTrial({ trial, printer: ladle, spool: late }).bytes);
  const below = Math.round(trial.plan.baseHeightMm / 0.2);
  expect(layers[below - 1].fan).toBe(0);
  expect(layers[below + 1].fan).toBe(Math.max(Math.round(trial.plan.bands[0].settings.fan! * 2.55), 0));
});

test("what is held between two spans is hotter on the first layers as well", () => {
  const layers = inForceByLayer(built("bridging").built.bytes);
  expect(layers.slice(0, 3).map(({ nozzle }) => nozzle)).toEqual([230, 230, 215]);
});

test("a printer whose start lines never speak of the bed is not told to change it", () => {
  const bare = { ...ladle, startLines: "G28\nM109 S{{nozzleFirst}}" };
  const trial = { ...trialOfKind("retraction", bare, spool), fixed };
  const layers = inForceByLayer(buildTrial({ trial, printer: bare, spool }).bytes);
  expect(layers.slice(0, 3).map(({ bed }) => bed)).toEqual([NaN, NaN, NaN]);
  const input = { trial, printer: bare, spool };
  const { findings } = inspectTrial(input, buildTrial(input));
  expect(findings.filter(({ check }) => check === "proof-differs")).toEqual([]);
  expect(findings.find(({ check }) => check === "first-layers-unheard")).toMatchObject({
    severity: "note",
    message: expect.stringContaining("{{bedFirst}}") as string,
  });
});

test("nothing is set hotter than the printer goes", () => {
  const trial = { ...trialOfKind("retraction", ladle, spool), fixed: { ...fixed, nozzleTemperature: 255 } };
  const layers = inForceByLayer(buildTrial({ trial, printer: ladle, spool }).bytes);
  expect(layers[0].nozzle).toBe(ladle.highestNozzleC);
});

test("the first layers are proved: a line that is missing is found", () => {
  const { input, built: made } = built("retraction");
  expect(inspectTrial(input, made).findings.filter(({ check }) => check === "proof-differs")).toEqual([]);
  for (const lost of ["M104 S215", "M140 S60", "M106 S128"]) {
    const text = new TextDecoder().decode(made.bytes);
    expect(text).toContain(`\n${lost}\n`);
    const bytes = new TextEncoder().encode(text.replace(`\n${lost}\n`, "\n"));
    const broken: BuiltTrial = { ...made, bytes };
    const found = inspectTrial(input, broken).findings.find(({ check }) => check === "proof-differs");
    expect(found).toMatchObject({ severity: "stop", where: "layer 3 at 0.6 mm" });
  }
});

test("a spool that asks for nothing gets what it always got", () => {
  const plain = { ...trialOfKind("retraction", ladle, saffron), fixed };
  const layers = inForceByLayer(buildTrial({ trial: plain, printer: ladle, spool: saffron }).bytes);
  expect(layers.slice(0, 3)).toEqual([
    { nozzle: 215, bed: 60, fan: 0 },
    { nozzle: 215, bed: 60, fan: 128 },
    { nozzle: 215, bed: 60, fan: 128 },
  ]);
});

test("the file's head says how it begins", () => {
  expect(new TextDecoder().decode(built("retraction").built.bytes)).toContain(
    "; begins   first 2 layers: nozzle 230 °C, bed 65 °C; fan from layer 3",
  );
});
