import { tuneFor, TuneKey, tuneKeys } from "@/core/measure";
import { readTunedFigures } from "@/core/measure/heater-tune";
import { actLines, coolLines, heatLines, tuneProgram } from "@/core/measure/program";
import { tuneRequest } from "@/core/measure/request";
import { tuneAskSchema } from "@/core/measure/request-schema";
import { judgeRuns } from "@/core/measure/runs";
import { TuneOutcome, TuneRequest } from "@/core/measure/tune";
import { valueFor } from "@/core/firmware/values";
import { valueLine } from "@/core/firmware/values/change";
import { readRuler } from "@/core/simulator/ruler";
import { Printer } from "@/core/shelf/printer";
import { Result } from "@/core/result";
import { ladle, printers, saffron } from "../helpers/demo";
import { Talk } from "../simulator/talk";

function request(
  tune: TuneKey,
  printer: Printer,
  inputs: Record<string, number> = {},
  values: Record<string, number> = {},
): TuneRequest {
  const made = tuneRequest(tuneAskSchema.parse({ tune, inputs, values }), { printer, spool: saffron, kept: {} });
  if (!made.ok) throw new Error(made.message);
  return made.value;
}

function value<T>(result: Result<T>): T {
  if (!result.ok) throw new Error(result.message);
  return result.value;
}

const sumOf = (
  tune: TuneKey,
  readings: Record<string, number>,
  inputs: Record<string, number> = {},
  values: Record<string, number> = {},
) => value(tuneFor(tune).sum(request(tune, ladle, inputs, values), readings));

describe("sums", () => {
  it("extruder steps: old 405, mark 120, left 21.5 → moved 98.5, new 411.17 (common practice, no source)", () => {
    const { sum, firmware, within, measured } = sumOf("extruder-steps", { leftMm: 21.5 }, {}, { extruderSteps: 405 });
    expect(measured).toBe(98.5);
    expect(firmware.extruderSteps).toBe(411.17);
    expect(within).toBe(false);
    expect(sum).toEqual(["moved = 120 − 21.5 = 98.5 mm", "new = 405 · 100 / 98.5 = 411.17 steps/mm"]);
  });

  it("extruder steps: within ±1 mm it is done, and a slip of the pen is asked about", () => {
    expect(sumOf("extruder-steps", { leftMm: 20.9 }, {}, { extruderSteps: 405 }).within).toBe(true);
    expect(sumOf("extruder-steps", { leftMm: 62 }, {}, { extruderSteps: 405 }).ask).toMatch(/72 %/);
    expect(
      tuneFor("extruder-steps").sum(request("extruder-steps", ladle, {}, { extruderSteps: 405 }), { leftMm: 120 }),
    ).toMatchObject({ ok: false, field: "leftMm" });
    expect(tuneFor("extruder-steps").sum(request("extruder-steps", ladle), { leftMm: 20 })).toMatchObject({
      ok: false,
      field: "extruderSteps",
    });
  });

  it("axis steps from parts: belt 200·16/(2·20) = 80, screw 200·16/8 = 400 (common practice, no source)", () => {
    const parts = { stepsPerTurn: 200, microsteps: 16, pitchMm: 2, teeth: 20, leadMm: 8 };
    expect(sumOf("axis-steps-from-parts", {}, { ...parts, axis: 0, drive: 0 }).firmware).toEqual({ stepsX: 80 });
    expect(sumOf("axis-steps-from-parts", {}, { ...parts, axis: 2, drive: 1 }).firmware).toEqual({ stepsZ: 400 });
    expect(sumOf("axis-steps-from-parts", {}, { ...parts, axis: 0, drive: 0 }, { stepsX: 80 }).within).toBe(true);
  });

  it("axis steps measured: new = old · commanded / measured", () => {
    expect(sumOf("axis-steps", { movedMm: 100.42 }, { axis: 1 }, { stepsY: 80 }).firmware.stepsY).toBeCloseTo(79.67, 2);
  });

  it("flow: new = old · wanted / mean of the four sides; a wall far from the others is asked about", () => {
    const walls = { frontMm: 0.47, rightMm: 0.48, backMm: 0.47, leftMm: 0.48 };
    const { settings, ask } = sumOf("wall-flow", walls, { wallMm: 0.45, flowPercent: 100 });
    expect(settings!.flowFactor).toBeCloseTo(94.7, 1);
    expect(ask).toBeUndefined();
    expect(sumOf("wall-flow", { ...walls, backMm: 0.7 }, { wallMm: 0.45 }).ask).toMatch(/differ by 0.23 mm/);
  });

  // Sent to c it stands at c + d; the home offset, added to the position at the endstop, becomes old + d.
  it("bed centre: corrected by the home offset, with the sign of what was measured", () => {
    expect(sumOf("bed-centre", { dxMm: 1.4, dyMm: -2.1 }, {}, { homeX: 0, homeY: 1 }).firmware).toEqual({
      homeX: 1.4,
      homeY: -1.1,
    });
    const keyword = printers.find(({ dialect }) => dialect === "keyword")!;
    const byName = value(tuneFor("bed-centre").sum(request("bed-centre", keyword), { dxMm: 1, dyMm: 0 }));
    expect([byName.firmware, byName.sum[0]]).toEqual([{}, expect.stringContaining("G92 X1 Y0")]);
  });

  it("highest flow: where nothing is lost yet, faster ones are tried before anything is kept", () => {
    const fast: Printer = { ...ladle, highestFlowMm3S: 24 };
    const now = request("highest-flow", fast, { firstMm3S: 5, stepMm3S: 2, count: 4 });
    const { within, printer } = value(tuneFor("highest-flow").sum(now, { fed0: 50, fed1: 50, fed2: 49.8, fed3: 49.5 }));
    expect([within, (printer?.highestFlowMm3S ?? 24) >= 24]).toEqual([false, true]);
  });

  it("PID figures are read from whatever line they stand in", () => {
    expect(readTunedFigures(["autotune: cycle 1", "done: Kp: 22.20 Ki: 1.08 Kd: 114.00", "ok"])).toEqual({
      p: 22.2,
      i: 1.08,
      d: 114,
    });
    expect(readTunedFigures(["p=3 i=4"])).toBeNull();
  });
});

describe("runs", () => {
  const outcome = (measured: number, within = false) => ({ measured, within, unit: "mm" }) as TuneOutcome;
  it("that disagree send one to the mechanics first", () => {
    expect(judgeRuns({ agreeWithin: 1 }, [outcome(97), outcome(94)])).toMatchObject({ disagree: true, done: false });
    expect(judgeRuns({ agreeWithin: 1 }, [outcome(97), outcome(97.4)])).toMatchObject({ disagree: false, done: false });
    expect(judgeRuns({ agreeWithin: 1 }, [outcome(99.8, true)])).toMatchObject({ done: true });
    expect(judgeRuns({ agreeWithin: 1 }, [])).toBeNull();
    expect(judgeRuns({ agreeWithin: Infinity }, [outcome(3), outcome(90)])).toMatchObject({
      disagree: false,
      advice: "The new value can be tried.",
    });
  });
});

describe("requests", () => {
  it("are refused out of range, with the field", () => {
    const ask = (inputs: Record<string, number>) =>
      tuneRequest(tuneAskSchema.parse({ tune: "extruder-steps", inputs }), { printer: ladle, spool: null, kept: {} });
    expect(ask({ nozzleC: 90 })).toMatchObject({ ok: false, field: "inputs.nozzleC" });
    expect(ask({ nozzleC: 290 })).toMatchObject({ ok: false, message: "Ladle 220 goes up to 260 °C." });
  });
});

describe("what a tune asks of the printer", () => {
  const asked = (tune: TuneKey, printer: Printer, inputs: Record<string, number>) =>
    tuneRequest(tuneAskSchema.parse({ tune, inputs }), { printer, spool: saffron, kept: {} });
  const small: Printer = { ...ladle, bedWidthMm: 120, bedDepthMm: 120, buildHeightMm: 100 };

  it("is within its room: no way longer than the bed or the column", () => {
    expect(asked("axis-steps", small, { axis: 0, wayMm: 200 })).toMatchObject({
      ok: false,
      field: "inputs.wayMm",
      message: "Ladle 220 has room for a way of 110 mm along X.",
    });
    expect(asked("axis-steps", small, { axis: 2, wayMm: 100 })).toMatchObject({ ok: false, field: "inputs.wayMm" });
    expect(asked("axis-steps", small, { axis: 1, wayMm: 100 })).toMatchObject({ ok: true });
  });

  it("starts above the bed and inside it, wherever 0 lies", () => {
    const lines = actLines(tuneFor("axis-steps"), request("axis-steps", small, { axis: 0, wayMm: 100 }));
    expect(lines.findIndex((line) => /^G1 Z/.test(line))).toBeLessThan(lines.findIndex((line) => /^G1 X/.test(line)));
    const round: Printer = { ...ladle, bedShape: "round", bedOrigin: "centre", bedWidthMm: 180 };
    const [first] = actLines(tuneFor("axis-steps"), request("axis-steps", round, { axis: 0, wayMm: 100 })).filter(
      (line) => /^G1 X/.test(line),
    );
    expect(first).toMatch(/^G1 X-80 /);
  });

  it("names an axis and a tool that there are", () => {
    expect(asked("axis-steps", ladle, { axis: 0.5 })).toMatchObject({ ok: false, field: "inputs.axis" });
    expect(
      asked(
        "extruder-steps",
        printers.find(({ tools }) => tools === 2)!,
        { tool: 0.5 },
      ),
    ).toMatchObject({ ok: false, field: "inputs.tool" });
  });

  it("takes the factors off before it feeds", () => {
    const lines = actLines(tuneFor("extruder-steps"), request("extruder-steps", ladle));
    expect(lines).toEqual(expect.arrayContaining(["M220 S100", "M221 S100"]));
  });

  it("a file for the firmware's retraction sets what is asked about, not what was there", () => {
    const now = request("firmware-retraction", ladle, { lengthMm: 5, speedMmS: 40 }, { retractionLength: 4 });
    const set = tuneProgram(tuneFor("firmware-retraction"), now).split("\n");
    expect(set.filter((line) => line.startsWith("M207")).pop()).toMatch(/^M207 S5\b/);
  });
});

describe("the file for people without a cable", () => {
  it("sets the steps, heats, homes, feeds 100 mm, switches the heater off and leaves the extruder holding", () => {
    const lines = tuneProgram(
      tuneFor("extruder-steps"),
      request("extruder-steps", ladle, {}, { extruderSteps: 405 }),
    ).split("\n");
    const commands = lines.filter((line) => line !== "" && !line.startsWith(";"));
    expect(commands).toEqual([
      "M92 E405",
      "M104 S210",
      "M109 S210",
      "G28",
      "G90",
      "G1 Z30 F600",
      "M220 S100",
      "M221 S100",
      "M83",
      "G92 E0",
      "G1 E100 F100",
      "G4 P1",
      "M104 S0",
      "M84 X Y Z",
    ]);
  });

  it.each(tuneKeys.filter((key) => tuneFor(key).asFile))(
    "%s ends with heaters off on every printer it is for",
    (key) => {
      for (const printer of printers.filter((one) => !tuneFor(key).refuses?.(one))) {
        const talk = new Talk(printer);
        const program = tuneProgram(tuneFor(key), request(key, printer))
          .split("\n")
          .filter((line) => line !== "" && !line.startsWith(";"));
        const answers = talk.say(...program).filter((line) => /unknown|not supported|too cold/i.test(line));
        expect([printer.name, answers, talk.machine.nozzles[0].setC, talk.machine.bed.setC]).toEqual([
          printer.name,
          [],
          0,
          0,
        ]);
      }
    },
  );
});

/** Walks through a tune at a simulated printer until nothing is left to change; returns the last outcome. */
function walk(
  key: TuneKey,
  printer: Printer,
  inputs: Record<string, number> = {},
): { outcome: TuneOutcome; talk: Talk } {
  const tune = tuneFor(key);
  const talk = new Talk(printer, { seed: 11 });
  let outcome: TuneOutcome | null = null;
  for (let round = 0; round < 4 && !outcome?.within; round++) {
    const now = request(key, printer, inputs, talk.machine.memory.inForce);
    talk.say(...heatLines(tune, now));
    const answers = talk.say(...actLines(tune, now));
    talk.settle();
    const readings = tune.fromAnswers?.(answers) ?? tune.fromRuler?.(readRuler(talk.machine, 100 + round), now) ?? {};
    outcome = value(tune.sum(now, readings));
    if (!outcome.within) {
      for (const [id, figure] of Object.entries(outcome.firmware)) {
        const { definition, tool } = valueFor(id)!;
        talk.say(valueLine(definition, tool, figure, printer.dialect === "minute", printer.tools));
      }
    }
    talk.say(...coolLines(tune, now));
  }
  return { outcome: outcome!, talk };
}

describe("walked through at simulated printers", () => {
  const withSteps = printers.filter(({ dialect }) => dialect !== "keyword");
  it.each(withSteps.map((printer) => [printer.name, printer] as const))(
    "extruder steps of %s come to the hidden truth within 1 %%",
    (_, printer) => {
      const { outcome, talk } = walk("extruder-steps", printer);
      expect(outcome.within).toBe(true);
      expect(Math.abs(talk.machine.feedTruth(0) - 1)).toBeLessThan(0.01);
    },
  );

  it("the second tool of a printer with two is tuned by itself", () => {
    const twin = printers.find(({ tools }) => tools === 2)!;
    const { outcome, talk } = walk("extruder-steps", twin, { tool: 1 });
    expect(outcome.within).toBe(true);
    expect(Math.abs(talk.machine.feedTruth(1) - 1)).toBeLessThan(0.01);
    expect(talk.machine.memory.inForce.extruderSteps).toBe(405);
    expect(talk.machine.nozzles.map(({ setC }) => setC)).toEqual([0, 0]);
    const { outcome: heat } = walk("nozzle-pid", twin, { tool: 1 });
    expect(Object.keys(heat.firmware)).toEqual(["nozzleP@1", "nozzleI@1", "nozzleD@1"]);
  });

  it("axis steps, bed centre and retraction are right after one round", () => {
    const axis = walk("axis-steps", ladle, { axis: 1, wayMm: 100 });
    expect(axis.outcome.within).toBe(true);
    expect(axis.talk.machine.memory.inForce.stepsY).toBeCloseTo(80 / 1.0042, 1);
    const centre = walk("bed-centre", ladle);
    expect(centre.outcome.within).toBe(true);
    expect(centre.talk.machine.memory.inForce.homeX).toBeCloseTo(1.4, 0);
    expect(
      walk("firmware-retraction", ladle, { lengthMm: 3.2, speedMmS: 40 }).talk.machine.memory.inForce,
    ).toMatchObject({ retractionLength: 3.2, retractionSpeed: 40 });
  });

  it("PID figures of nozzle and bed are taken", () => {
    for (const key of ["nozzle-pid", "bed-pid"] as const) {
      const { outcome, talk } = walk(key, ladle);
      const [id, figure] = Object.entries(outcome.firmware)[0];
      expect(Math.abs(talk.machine.memory.inForce[id] / figure - 1)).toBeLessThan(0.25);
    }
  });

  it("the highest flow is found below the flow at which the simulated hot end slips", () => {
    const tune = tuneFor("highest-flow");
    const now = request("highest-flow", ladle, { nozzleC: 210, firstMm3S: 6, stepMm3S: 2, count: 6 });
    const talk = new Talk(ladle);
    talk.say("M109 S210", ...tune.act(now));
    talk.settle();
    const outcome = value(tune.sum(now, tune.fromRuler!(readRuler(talk.machine, 4), now)));
    // It slips from 11.5 mm³/s on: 12 loses, 10 does not; a loss of 5 % must show within one step.
    expect([10, 12]).toContain(outcome.printer!.highestFlowMm3S);
  });

  it("flow from walls makes up for what the extruder does not feed", () => {
    const talk = new Talk(ladle);
    const now = request("wall-flow", ladle, { wallMm: 0.45, flowPercent: 100 });
    const { settings } = value(
      tuneFor("wall-flow").sum(now, tuneFor("wall-flow").fromRuler!(readRuler(talk.machine, 8, { wallMm: 0.45 }), now)),
    );
    expect(Math.abs((settings!.flowFactor! / 100) * 0.973 - 1)).toBeLessThan(0.03);
  });
});
