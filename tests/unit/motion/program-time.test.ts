/** Time of whole programs: the axes' own limits, what a program sets itself, and the simulated printer's clock. */
import { readProgram } from "@/core/gcode/read";
import { commandAt } from "@/core/gcode/transmit";
import { readChunks } from "@/core/edits/see-file";
import { moveSeconds, MotionLimits } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { reportOf } from "@/core/report/report";
import { SimulatedPrinter } from "@/core/simulator/machine";
import { personalities } from "@/core/simulator/personalities";
import { Printer } from "@/core/shelf/printer";
import { buildTrial } from "@/core/trials/build";
import { TrialKindKey } from "@/core/trials";
import { demoFiles } from "@/server/demo/sliced-files";
import { ladle, planOf, printers, saffron, trialOfKind } from "../helpers/demo";

const limits: MotionLimits = {
  ...limitsFor(ladle),
  printAccelerationMmS2: 1000,
  travelAccelerationMmS2: 1000,
  jerkMmS: 0.0001,
  jerkZMmS: 0.0001,
  jerkEMmS: 0.0001,
  highestFeedMmS: { x: 500, y: 500, z: 20, e: 50 },
};
const start = "G90\nM83\nG92 X0 Y0 Z0.2\nG1 F6000\n";
const secondsOf = (text: string, own = limits) => {
  const { moves, events } = readProgram(start + text);
  return moveSeconds(moves, events, own).reduce((sum, seconds) => sum + seconds, 0);
};
/** Seconds that `text` adds to the start. */
const secondsFor = (text: string, own = limits) => secondsOf(text, own) - secondsOf("", own);

// Hand-worked from s = a·t²/2: two halves of a hop from rest to rest take 2·√(s/a).
test("hops take the Z axis' own acceleration, not the print's", () => {
  const hops = "G1 Z0.6 F1200\nG1 Z0.2\n".repeat(50);
  const slow = { ...limits, axisAccelerationMmS2: { ...limits.axisAccelerationMmS2, z: 100 } };
  expect(secondsFor(hops, slow)).toBeCloseTo(100 * 2 * Math.sqrt(0.4 / 100), 2);
  const quick = { ...limits, axisAccelerationMmS2: { ...limits.axisAccelerationMmS2, z: Infinity } };
  expect(secondsFor(hops, quick) / secondsFor(hops, slow)).toBeLessThan(0.5);
});

test("a slanted move gives Z no more than its share of the acceleration", () => {
  const own = { ...limits, axisAccelerationMmS2: { ...limits.axisAccelerationMmS2, z: 100 } };
  // 3-4-5: Z takes 0.6 of the way, so 100 / 0.6 mm/s² along it; 1 mm is too short to reach the speed.
  expect(secondsFor("G1 X0.8 Z0.8 F60000\n", own)).toBeCloseTo(2 * Math.sqrt(1 / (100 / 0.6)), 2);
});

test("M201 and M203 lower what the axes may do, from there on", () => {
  expect(secondsFor("M203 X20\nG1 X100 E1 F6000\n")).toBeCloseTo(100 / 20 + 20 / 1000, 2);
  expect(secondsFor("M201 X100\nG1 X100 E1 F6000\n")).toBeCloseTo(2 * Math.sqrt(100 / 100), 2);
  expect(secondsFor("G1 X100 E1 F6000\nM203 X20\n")).toBeCloseTo(1 + 0.1, 2);
  expect(secondsFor("M203 Y20\nG1 X100 E1 F6000\n")).toBeCloseTo(1 + 0.1, 2);
});

test("a move that lays more than the extruder feeds takes as long as the extruder", () => {
  const own = { ...limits, axisAccelerationMmS2: { ...limits.axisAccelerationMmS2, e: Infinity } };
  // 150 mm of filament at no more than 50 mm/s.
  expect(secondsFor("G1 X50 E150 F6000\n", own)).toBeCloseTo(3 + 50 / 3 / 1000, 2);
  expect(secondsFor("G1 X50 F6000\n", own)).toBeLessThan(0.7);
});

test("a dwell behind the last move counts", () => {
  expect(secondsFor("G1 X10\nG4 S60\n") - secondsFor("G1 X10\n")).toBeCloseTo(60, 4);
  expect(secondsFor("G1 X10\nG4 P1500\n") - secondsFor("G1 X10\n")).toBeCloseTo(1.5, 4);
});

test("no faster than the planned moves can brake: short pieces under a short look-ahead", () => {
  const pieces = Array.from({ length: 1000 }, (_, i) => `G1 X${((i + 1) / 10).toFixed(1)} E0.01 F12000`).join("\n");
  const ahead = (lookAheadMoves: number) => secondsFor(`${pieces}\n`, { ...limits, lookAheadMoves, jerkEMmS: 5 });
  // 16 moves of 0.1 mm: √(2 · 1000 · 1.6) = 57 mm/s at most, though 200 mm/s are asked for.
  expect(ahead(16)).toBeGreaterThan(100 / Math.sqrt(2 * 1000 * 1.6));
  expect(ahead(16)).toBeLessThan(1.1 * (100 / Math.sqrt(2 * 1000 * 1.5) + 0.06));
  expect(ahead(2000)).toBeCloseTo(100 / 200 + 200 / 1000, 2);
  expect(ahead(64)).toBeLessThan(ahead(16));
});

/** What the simulated printer's own clock says of a program that finds it hot. */
function clockSeconds(bytes: Uint8Array, printer: Printer): number {
  const machine = new SimulatedPrinter(printer, personalities[printer.dialect], () => {});
  machine.receive(`${printer.tools > 1 ? "M104 T1 S220\n" : ""}M104 T0 S220\nM140 S60\n`);
  machine.advance(400);
  let feed = "";
  for (let at = 0; at < bytes.length;) {
    const { text, next } = commandAt(bytes, at);
    at = next;
    if (text && !/^M(109|190|116|191)/.test(text)) feed += `${text}\n`;
  }
  const before = machine.extrusion.movingS;
  machine.receive(feed);
  while (!machine.idle) machine.advance(20);
  return machine.extrusion.movingS - before;
}

describe("the estimate and the simulated printer's clock are within 1 %", () => {
  // They share the sums of one move and one corner, which the tests above check by hand; order, look-ahead, what the program sets
  // meanwhile and what is left out are each their own.
  const estimate = (bytes: Uint8Array, printer: Printer) =>
    reportOf(readChunks([bytes], printer), limitsFor(printer)).report.seconds;
  const dwellsS = (bytes: Uint8Array) =>
    [...new TextDecoder().decode(bytes).matchAll(/^G4 (?:S([\d.]+)|P([\d.]+))/gm)].reduce(
      (sum, [, s, ms]) => sum + (s ? Number(s) : Number(ms) / 1000),
      0,
    );

  test.each(demoFiles().map((file) => [file.name, file] as const))("opened file %s", (_, { bytes }) => {
    expect(estimate(bytes, ladle) / (clockSeconds(bytes, ladle) + dwellsS(bytes))).toBeCloseTo(1, 2);
  });

  const low: [string, TrialKindKey, Printer][] = printers.flatMap((printer, i) =>
    (["temperature", "retraction", "acceleration", "extrusion", "speed"] as const)
      .filter((_, k) => k === i % 5)
      .map((kind): [string, TrialKindKey, Printer] => [printer.name, kind, printer]),
  );
  test.each(low)("%s, %s", (_, kind, printer) => {
    const trial = trialOfKind(kind, printer, saffron);
    const plan =
      kind === "temperature" ? planOf([215, 205], 3) : { ...trial.plan, bands: trial.plan.bands.slice(0, 2) };
    const { bytes } = buildTrial({ trial: { ...trial, plan }, printer, spool: saffron });
    expect(estimate(bytes, printer) / (clockSeconds(bytes, printer) + dwellsS(bytes))).toBeCloseTo(1, 2);
  });
});
