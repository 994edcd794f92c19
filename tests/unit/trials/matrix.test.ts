/** A matrix of any two settings: what is printed where, read from the program's text by a few lines that share nothing with the core. */
import { spotsDiffer } from "@/core/checks/of-trials/spots-differ";
import { buildTrial } from "@/core/trials/build";
import { inspectTrial } from "@/core/trials/inspect";
import { bandsOfTrial } from "@/core/trials/run";
import { settingsAsked } from "@/core/trials/kinds/matrix";
import { optionsOfKind } from "@/core/trials/options-of-kind";
import type { SettingKey } from "@/core/settings";
import { ladle, printers, saffron, spools, trialOfKind } from "../helpers/demo";

const pairs: [across: SettingKey, up: SettingKey][] = [
  ["flowFactor", "nozzleTemperature"],
  ["printSpeed", "nozzleTemperature"],
  ["retractionLength", "nozzleTemperature"],
  ["retractionSpeed", "retractionLength"],
  ["travelSpeed", "fan"],
  ["acceleration", "printSpeed"],
  ["pressureAdvance", "printSpeed"],
  ["flowFactor", "bedTemperature"],
];

interface Bead {
  x: number;
  y: number;
  z: number;
  feedMmS: number;
  flow: number;
  acceleration: number;
}

/** Every move that lays material, with what holds there: words cut by a plain split. */
function beadsOf(program: string): Bead[] {
  const beads: Bead[] = [];
  const at = { X: 0, Y: 0, Z: 0, F: 0 };
  let [flow, acceleration] = [100, NaN];
  for (const line of program.split("\n")) {
    const [code, ...words] = line.split(";")[0].trim().split(" ");
    const value = (letter: string) => Number(words.find((word) => word.startsWith(letter))?.slice(1) ?? NaN);
    if (code === "M221") flow = value("S");
    if (code === "M204") acceleration = value("P");
    if (code !== "G1" && code !== "G0") continue;
    for (const axis of ["X", "Y", "Z", "F"] as const) if (!Number.isNaN(value(axis))) at[axis] = value(axis);
    const moves = words.some((word) => /^[XY]/.test(word));
    if (moves && value("E") > 0) beads.push({ x: at.X, y: at.Y, z: at.Z, feedMmS: at.F / 60, flow, acceleration });
  }
  return beads;
}

test.each(pairs)("%s beside %s: every printer of the demo is asked without a stop, in sensible time", (across, up) => {
  for (const printer of printers) {
    const trial = trialOfKind("matrix", printer, saffron, {}, { across, up });
    expect(trial.plan.sideBySide!.setting).toBe(across);
    const input = { trial, printer, spool: saffron };
    const built = buildTrial(input);
    const { findings } = inspectTrial(input, built);
    const stops = findings.filter(({ severity }) => severity === "stop");
    // What a printer cannot be told is said; nothing else stops it.
    expect(stops.filter(({ check }) => check !== "not-sayable")).toEqual([]);
    if (stops.length > 0) continue;
    expect(built.figures.seconds / 60).toBeLessThanOrEqual(55);
    // A gram is 1000 / (π/4 · 1.75² · 1.24) mm of PLA, by its usual density of 1.24 g/cm³ (data sheets).
    const gramMm = 1000 / ((Math.PI / 4) * saffron.diameterMm ** 2 * 1.24);
    expect(built.figures.filamentMm / gramMm).toBeLessThanOrEqual(12);
  }
});

test("each block is laid at its own speed, at every temperature", () => {
  const trial = trialOfKind("matrix", ladle, saffron, {}, { across: "printSpeed", up: "nozzleTemperature" });
  const { bytes, shape } = buildTrial({ trial, printer: ladle, spool: saffron });
  const from = bandsOfTrial(trial)[0].fromMm;
  const beads = beadsOf(new TextDecoder().decode(bytes)).filter(({ z }) => z > from + 2 * trial.layerHeightMm + 1e-6);
  const { values } = trial.plan.sideBySide!;
  const [middleX, middleY] = [ladle.bedWidthMm / 2, ladle.bedDepthMm / 2];
  values.forEach((value, i) => {
    const { x, y } = shape.spots![i];
    const own = beads.filter((bead) => Math.abs(bead.x - middleX - x) < 4 && Math.abs(bead.y - middleY - y) < 4);
    expect(own.length).toBeGreaterThan(500);
    expect(new Set(own.map(({ feedMmS }) => Math.round(feedMmS * 10) / 10))).toEqual(new Set([value]));
  });
});

test("flow and acceleration are said before each block, and set back behind the last", () => {
  for (const across of ["flowFactor", "acceleration"] as const) {
    const trial = trialOfKind("matrix", ladle, saffron, {}, { across, up: "nozzleTemperature" });
    const { bytes, shape } = buildTrial({ trial, printer: ladle, spool: saffron });
    const program = new TextDecoder().decode(bytes);
    const from = bandsOfTrial(trial)[0].fromMm;
    const beads = beadsOf(program).filter(({ z }) => z > from + 1e-6);
    trial.plan.sideBySide!.values.forEach((value, i) => {
      const { x, y } = shape.spots![i];
      const own = beads.filter(
        (bead) => Math.abs(bead.x - ladle.bedWidthMm / 2 - x) < 4 && Math.abs(bead.y - ladle.bedDepthMm / 2 - y) < 4,
      );
      const heard = own.map((bead) => (across === "flowFactor" ? bead.flow : bead.acceleration));
      expect(new Set(heard)).toEqual(new Set([value]));
    });
    const last = program.split("\n").filter((line) => line.startsWith(across === "flowFactor" ? "M221" : "M204"));
    expect(last.at(-1)).toContain(across === "flowFactor" ? "S100" : `P${ladle.printAccelerationMmS2}`);
  }
});

test("a value that does not come to its block is found", () => {
  const trial = trialOfKind("matrix", ladle, saffron, {}, { across: "printSpeed", up: "nozzleTemperature" });
  const input = { trial, printer: ladle, spool: saffron };
  const built = buildTrial(input);
  const { values } = trial.plan.sideBySide!;
  const meant = {
    ...trial,
    plan: { ...trial.plan, sideBySide: { setting: "printSpeed" as const, values: [...values].reverse() } },
  };
  expect(inspectTrial(input, built).findings.map(({ check }) => check)).not.toContain(spotsDiffer.key);
  expect(inspectTrial({ ...input, trial: meant }, built).findings.map(({ check }) => check)).toContain(spotsDiffer.key);
});

test("blocks stand in rows where the bed is narrow, and on every bed", () => {
  for (const printer of printers) {
    for (const spool of spools.slice(0, 3)) {
      const values = Array.from({ length: 12 }, (_, i) => 90 + 2 * i);
      const one = trialOfKind("matrix", printer, spool, {}, { across: "flowFactor", up: "nozzleTemperature" });
      const trial = { ...one, plan: { ...one.plan, sideBySide: { setting: "flowFactor" as const, values } } };
      const built = buildTrial({ trial, printer, spool });
      const stops = inspectTrial({ trial, printer, spool }, built).findings.filter(
        ({ severity }) => severity === "stop",
      );
      expect(stops).toEqual([]);
    }
  }
});

test("the same setting twice is refused at its field; options that name none are the usual two", () => {
  expect(optionsOfKind("matrix", { across: "flowFactor", up: "flowFactor" })).toMatchObject({
    ok: false,
    field: "options.up",
  });
  expect(optionsOfKind("matrix", { across: "nozzleTemperature" })).toMatchObject({
    ok: false,
    field: "options.across",
  });
  expect(settingsAsked({})).toEqual({ across: "flowFactor", up: "nozzleTemperature" });
});
