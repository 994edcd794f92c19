/**
 * What each command means. Where no standard says it, the entry says "common practice, no source", and what is asserted here is the
 * documented behaviour itself, not that two of our own parts agree.
 */
import { explainLine } from "@/core/firmware/explain";
import { dangerOf } from "@/core/firmware/danger";
import { follow, stateAfter } from "@/core/gcode/follow";
import { readProgram } from "@/core/gcode/read";
import { hasCommand } from "@/core/machine/command";
import { commandFor, commands, textCommands } from "@/core/machine/commands";
import { dialectKeys, dialects } from "@/core/machine/dialects";
import { ownCommands } from "@/core/machine/dialects/dialect";
import { EventKind } from "@/core/machine/event-kind";
import { countedAfterHomingMm, homeOffsetFor } from "@/core/machine/homing";
import { readingOf, usualReading } from "@/core/machine/reading";
import { freshState, isHeating, isHomed, MOST_TOOLS, stateFromJson } from "@/core/machine/state";
import { SimulatedPrinter } from "@/core/simulator/machine";
import { personalities } from "@/core/simulator/personalities";
import { ladle, printers } from "../helpers/demo";

const known = { homed: true, nozzleC: 210 };
const reading = (dialect: (typeof dialectKeys)[number], tools = 1, fanPerTool = false) =>
  readingOf({ dialect, tools, fanPerTool });
/** Events of a program as `kind=value@index`. */
function told(text: string, of = usualReading): string[] {
  const { events } = readProgram(text, { reading: of, asksProgram: false });
  const names = Object.entries(EventKind);
  return Array.from({ length: events.count }, (_, i) => {
    const name = names.find(([, kind]) => kind === events.kind[i])![0];
    return `${name}=${events.value[i]}@${events.tool[i]}`;
  });
}

describe("the command table", () => {
  it("has each command once, with what it does and what its words are", () => {
    expect(new Set(commands.map(({ code }) => code)).size).toBe(commands.length);
    for (const { code, does, example } of commands) {
      expect(does.length).toBeGreaterThan(4);
      if (example) expect(commandFor(example.split(" ")[0])?.code).toBe(code);
    }
    expect(commandFor("m0104")?.code).toBe("M104");
    expect(commandFor("T7")?.does).toBe("Chooses a tool");
    expect(textCommands.has(117)).toBe(true);
  });

  it("knows in every dialect what sets temperatures, moves and homes", () => {
    for (const dialect of dialectKeys) {
      for (const code of ["G0", "G1", "G28", "G90", "G92", "M104", "M109", "M140", "M190", "M84"]) {
        expect(hasCommand(commandFor(code)!, reading(dialect))).toBe(true);
      }
    }
  });
});

describe("temperatures (common practice, no source)", () => {
  it("M104 takes S alone: R is a word of the waiting kind", () => {
    expect(told("M104 S200 R180")).toEqual(["nozzleTemperature=200@0"]);
    expect(told("M104 R180")).toEqual([]);
    expect(told("M109 R180")).toEqual(["nozzleTemperatureWait=180@0"]);
    expect(told("M190 S60 R40")).toEqual(["bedTemperatureWait=60@0"]);
    // One meaning for everybody who asks.
    expect(stateAfter(["M104 S200 R180"]).nozzleC).toEqual([200]);
    expect(dangerOf("M104 S200 R180", known)?.reason).toMatch(/to 200 °C/);
  });

  it("T names the tool without choosing it, and alone chooses it", () => {
    const state = stateAfter(["T0", "M104 S210 T1", "M104 S200"]);
    expect(state).toMatchObject({ tool: 0, nozzleC: [200, 210] });
    expect(stateAfter(["T1", "M104 S200"])).toMatchObject({ tool: 1, nozzleC: [NaN, 200] });
  });

  it("G10 with P and S heats a tool in one dialect, and never draws back then", () => {
    expect(told("G10 P1 S240", reading("minute", 2))).toEqual(["nozzleTemperature=240@1"]);
    expect(told("G10 P1 S240", reading("jerk"))).toEqual([]);
    expect(dangerOf("G10 P0 S240", known)?.kind).toBe("heater");
    expect(readProgram("G10 P1 S240\nG10 L2 X5\n").moves.count).toBe(0);
  });

  it("named commands are read in their own dialect", () => {
    const line = "SET_HEATER_TEMPERATURE HEATER=extruder1 TARGET=250";
    expect(told(line, reading("keyword"))).toEqual(["nozzleTemperature=250@1"]);
    expect(dangerOf(line, known)).toMatchObject({ kind: "heater" });
    expect(told("SET_HEATER_TEMPERATURE HEATER=heater_bed TARGET=60")).toEqual(["bedTemperature=60@0"]);
    expect(readProgram(line, { reading: reading("jerk") }).unknown).toEqual([
      { command: "SET_HEATER_TEMPERATURE", count: 1 },
    ]);
  });
});

describe("fans (common practice, no source)", () => {
  it("without P the one fan is meant, whatever tool is in use; with a fan for each tool, that tool's", () => {
    const text = "T0\nM106 S128\nT1\nM106 S255\n";
    expect(told(text, reading("jerk", 2)).filter((line) => line.startsWith("fan"))).toEqual(["fan=128@0", "fan=255@0"]);
    const apart = told(text, reading("minute", 2, true)).filter((line) => line.startsWith("fan"));
    expect(apart).toEqual(["fan=128@0", "fan=255@1"]);
    expect(stateAfter(["T1", "M106 S128"], reading("jerk", 2)).fanDuty).toEqual([128]);
  });

  it("a valve is open or closed, and takes no duty", () => {
    expect(told("M126\nM127\nM106 S128", reading("valve"))).toEqual(["fan=255@0", "fan=0@0"]);
  });
});

describe("how figures are meant", () => {
  // NIST RS274/NGC (NISTIR 6556) for G20, G21, G90, G91, G92; that G90 carries E along, or does not, is common practice.
  it("G90 and G91 carry the extruder along in some dialects and leave it in others", () => {
    const lines = ["M83", "G91", "G1 Z5 F600", "G90"];
    for (const dialect of ["jerk", "deviation", "valve"] as const) {
      expect(stateAfter(lines, reading(dialect)).relativeE).toBe(false);
    }
    for (const dialect of ["keyword", "minute"] as const) {
      expect(stateAfter(lines, reading(dialect)).relativeE).toBe(true);
    }
  });

  it("one inch is 25.4 mm exactly (NIST SP 811), in places, feeds and names", () => {
    const state = stateAfter(["G28", "G20", "G1 X1 F10", "G92 X2"]);
    expect(state).toMatchObject({ x: 25.4, feedMmMin: 254 });
    expect(state.x - state.offsetX).toBeCloseTo(50.8, 9);
  });

  it("G92 without words names everything 0", () => {
    const state = stateAfter(["G1 X10 Y20 Z5 E3", "G92"]);
    const { x, y, z, e, offsetX, offsetY, offsetZ, offsetE } = state;
    expect([x - offsetX, y - offsetY, z - offsetZ, e - offsetE]).toEqual([0, 0, 0, 0]);
    expect([x, y, z]).toEqual([10, 20, 5]);
  });
});

describe("limits (common practice, no source)", () => {
  it("P, T and R of M204 each stand for themselves, S for what of printing and travelling is not named", () => {
    expect(told("M204 T5000")).toEqual(["travelAcceleration=5000@0"]);
    expect(told("M204 S500 T1500")).toEqual(["printAcceleration=500@0", "travelAcceleration=1500@0"]);
    expect(told("M204 S700")).toEqual(["printAcceleration=700@0", "travelAcceleration=700@0"]);
    expect(told("M204 P1 R2")).toEqual(["printAcceleration=1@0", "retractAcceleration=2@0"]);
  });

  it("highest feeds are told per second, or per minute", () => {
    expect(told("M203 Z20")).toEqual(["axisFeedZ=20@0"]);
    expect(told("M203 Z1200", reading("minute"))).toEqual(["axisFeedZ=20@0"]);
    expect(told("M566 X480", reading("minute"))).toEqual(["jerkX=8@0"]);
    expect(told("M566 X480", reading("jerk"))).toEqual([]);
  });

  it("what the firmware draws back is not known until it is said", () => {
    expect(freshState().retractionMm).toBeNaN();
    expect(stateAfter(["M207 S4 F2100"])).toMatchObject({ retractionMm: 4, retractionMmS: 35 });
  });
});

describe("the home offset (M206: added to the position at the endstop; common practice, no source)", () => {
  /** Where a nozzle really stands: its endstop is at `trueEndstop` on the bed, whatever the axis counts there. */
  const standsAt = (sentTo: number, trueEndstop: number, endstop: number, offset: number) =>
    sentTo - countedAfterHomingMm(endstop, offset) + trueEndstop;

  it("a larger figure moves the print towards the endstop by as much", () => {
    expect(standsAt(110, 0, 0, 5)).toBe(105);
    // The same figure in a G92 behind G28 does the same: the axis counts 5 where it counted 0.
    const named = stateAfter(["G28", "G92 X5", "G90", "G1 X110"]);
    expect(named.x).toBe(105);
  });

  it("old + d makes the nozzle stand where it is sent, whatever it was before", () => {
    for (const [trueEndstop, old] of [
      [2, 0],
      [-1.5, 0],
      [2, 3],
      [0.4, -7],
    ]) {
      const d = standsAt(110, trueEndstop, 0, old) - 110;
      expect(standsAt(110, trueEndstop, 0, homeOffsetFor(old, d))).toBeCloseTo(110, 9);
    }
  });

  it("is in force from the next homing on, in talk and at a simulated printer", () => {
    const before = stateAfter(["G28", "M206 X3"]);
    expect(before.x).toBe(0);
    follow(before, "G28");
    expect(before.x).toBe(3);
    const machine = new SimulatedPrinter(ladle, personalities.jerk, () => undefined);
    machine.receive("G28\nM206 X3\n");
    machine.advance(20);
    expect(machine.place.x).toBe(0);
    machine.receive("G28\n");
    machine.advance(20);
    expect(machine.place.x).toBe(3);
  });
});

describe("what was told", () => {
  it("is followed line by line", () => {
    const state = stateAfter([
      ...["G28", "M104 S210", "M140 S60", "M106 S128", "G90", "G1 X10 Y20 Z0.2 F3000"],
      ...["G91", "M83", "G1 X5 Z1", "T1", "M109 S200"],
    ]);
    expect(state).toMatchObject({
      nozzleC: [210, 200],
      bedC: 60,
      fanDuty: [128],
      x: 15,
      y: 20,
      tool: 1,
      relative: true,
    });
    expect(state.z).toBeCloseTo(1.2, 9);
    expect(state.feedMmMin).toBe(3000);
    expect([isHomed(state), isHeating(state)]).toEqual([true, true]);
    for (const line of ["M104 S0 T0", "M104 S0 T1", "M140 S0"]) follow(state, line);
    expect(isHeating(state)).toBe(false);
    // A motor that was let go may be turned by hand: nobody knows any more where the axis stands.
    follow(state, "M84 X Y");
    expect([state.homedX, state.homedZ, isHomed(state)]).toEqual([false, true, false]);
  });

  it("comes back from JSON as it was, with what an older form lacks untold", () => {
    const state = stateAfter(["G28", "M104 S210 T1", "M204 P800"]);
    expect(stateFromJson(JSON.stringify(state))).toEqual(state);
    const old = stateFromJson('{"nozzleC":[210],"bedC":60,"fanDuty":[128],"tool":0,"xMm":3}');
    expect(old).toMatchObject({ nozzleC: [210], bedC: 60, fanDuty: [128], x: 0 });
    expect(old.retractionMm).toBeNaN();
  });

  it("stays small whatever tool or fan a line names", () => {
    const state = freshState();
    for (const line of [
      "M104 S200 T300000000",
      "M106 P30000000 S0",
      "T99999999",
      "M221 S90 T70000000",
      "M104 S1 T-4",
    ]) {
      follow(state, line);
    }
    expect(JSON.stringify(state).length).toBeLessThan(2000);
    expect(state).toMatchObject({ tool: 0, nozzleC: [], fanDuty: [] });
    follow(state, `M104 S200 T${MOST_TOOLS - 1}`);
    expect(state.nozzleC).toHaveLength(MOST_TOOLS);
    expect(readProgram("M104 S200 T300000000\nT5000\n").events.count).toBe(0);
  });
});

describe("one meaning a command", () => {
  it("every example means the same to reader, talk and simulated printer", () => {
    for (const printer of printers) {
      const own = readingOf(printer);
      for (const command of commands) {
        const { example } = command;
        if (!example || !hasCommand(command, own) || example.startsWith("M303")) continue;
        const lines = ["G28", "G1 X20 Y20 Z10 F3000", example];
        const state = stateAfter(lines, own);
        const { endState } = readProgram(lines.join("\n"), { reading: own, asksProgram: false });
        expect([example, { ...endState, motorsOn: true }]).toEqual([example, { ...state, motorsOn: true }]);
        const machine = new SimulatedPrinter(printer, personalities[printer.dialect], () => undefined);
        machine.receive(`${lines.join("\n")}\n`);
        for (let i = 0; i < 400 && !machine.idle; i++) machine.advance(5);
        const { relative, relativeE, unitMm, tool, speedPercent, flowPercent, nozzleC } = machine.state;
        expect([example, { relative, relativeE, unitMm, tool, speedPercent, flowPercent, nozzleC }]).toEqual([
          example,
          {
            relative: state.relative,
            relativeE: state.relativeE,
            unitMm: state.unitMm,
            tool: state.tool,
            speedPercent: state.speedPercent,
            flowPercent: state.flowPercent,
            nozzleC: state.nozzleC,
          },
        ]);
      }
    }
  });

  it("what a dialect does not have is said beside the line", () => {
    expect(explainLine("M106 S128", reading("valve")).title).toMatch(/this printer's dialect has no such command/);
    expect(explainLine("M106 S128", reading("jerk")).title).toBe("Part fan on");
    expect(explainLine("M73 P50 R10").parts.map(({ means }) => means)).toEqual([
      "Shows how far the print is",
      "percent done",
      "minutes left",
    ]);
  });
});

describe("a dialect", () => {
  test.each(dialectKeys)("%s takes every line it writes itself, and asks for what it takes", (key) => {
    const own = dialects[key];
    const written = [
      ...[own.fanLine(0, { index: null }), own.fanLine(255, { index: 1 }), own.accelerationLine(1500)],
      ...[own.corneringLine(own.cornering === "jerk" ? 8 : 0.02), own.pressureAdvanceLine(0.04, 0)],
      own.firmwareRetractionLine({ lengthMm: 1, speedMmS: 30 }),
    ].flatMap((line) => (line.ok ? [line.value] : []));
    const lines = [
      ...written,
      own.saveLine,
      ...(own.reloadLine === null ? [] : [own.reloadLine]),
      ...own.valueQuestions,
    ];
    for (const line of lines) {
      const command = commandFor(line.split(" ")[0]);
      expect([line, command && hasCommand(command, reading(key))]).toEqual([line, true]);
    }
  });

  test("says of every command that not all printers have whether it takes it, and of no other", () => {
    for (const code of ownCommands) {
      const taking = dialectKeys.filter((key) => dialects[key].takes.has(code));
      expect([code, taking.length > 0 && taking.length < dialectKeys.length]).toEqual([code, true]);
      expect(commandFor(code)).toBeDefined();
    }
    for (const key of dialectKeys) for (const code of dialects[key].takes) expect(ownCommands.has(code)).toBe(true);
  });
});
