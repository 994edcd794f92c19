import { readTemperatures } from "@/core/firmware/reports/temperatures";
import { readValues } from "@/core/firmware/values/reading";
import { moveSeconds } from "@/core/motion/duration";
import { limitsFor } from "@/core/motion/limits";
import { ProgramReader } from "@/core/gcode/read";
import { Noise } from "@/core/simulator/noise";
import { numberedProblem } from "@/core/simulator/numbering";
import { pidFromSwing } from "@/core/simulator/relay";
import { ladle, printers } from "../helpers/demo";
import { Talk } from "./talk";

const [, whisk, twin, kettle, sieve] = printers;
const oks = (lines: string[]) => lines.filter((line) => line.startsWith("ok")).length;

describe("the line protocol", () => {
  it("answers every line with one ok, blank ones with none", () => {
    const talk = new Talk(ladle);
    talk.machine.receive("M105\r\n\n   \nM114\nM110 N5\n");
    expect(oks(talk.heard())).toBe(3);
  });

  it("takes the check vectors (from memory) and asks for what is damaged or out of order", () => {
    for (const [line, last] of [
      ["N3 T0*57", 2],
      ["N4 G92 E0*67", 3],
      ["N5 G28*22", 4],
      ["N6 G1 F1500.0*82", 5],
    ] as const) {
      expect([line, numberedProblem(line, last)]).toEqual([line, null]);
    }
    expect(numberedProblem("N6 G1 F1500.0*81", 5)).toMatch(/checksum/);
    expect(numberedProblem("N6 G1 F1500.0*82", 6)).toMatch(/not the next/);
    expect(numberedProblem("N6 G1 F1500.0", 5)).toMatch(/without checksum/);
    expect(numberedProblem("N0 M110 N0*125", 99)).toBeNull();
    expect(numberedProblem("G28", 7)).toBeNull();
  });

  it("says busy every two seconds while it homes, and reports heat every second while it waits for it", () => {
    const talk = new Talk(ladle);
    const home = talk.say("G28");
    expect(home.slice(0, 5)).toEqual(Array(5).fill("echo:busy: processing"));
    const heat = talk.say("M109 S60").filter((line) => readTemperatures(line));
    expect(heat.length).toBeGreaterThan(12);
  });

  it("answers what it does not know in its own way", () => {
    expect(new Talk(ladle).say("FOO 1")[0]).toBe('echo:Unknown command: "FOO 1"');
    expect(new Talk(twin).say("M900 K0.1")[0]).toBe("Error: M900 K0.1 is not supported");
    expect(new Talk(sieve).say("M503")[0]).toBe("// Unknown command: M503");
    expect(new Talk(kettle).say("M106 S255")[0]).toMatch(/Unknown/);
  });

  it("lives with anything, a line without end included", () => {
    const talk = new Talk(ladle);
    const noise = new Noise(5);
    for (let i = 0; i < 200; i++) {
      talk.machine.receive(Array.from({ length: 300 }, () => String.fromCharCode(noise.even() * 256)).join(""));
    }
    talk.machine.receive(`${"X".repeat(5000)}\n`);
    while (!talk.machine.idle) talk.machine.advance(1);
    talk.heard();
    expect(oks(talk.say("M105"))).toBe(1);
  });
});

describe("values", () => {
  it("are volatile until saved: M92, M500, M501, M502 and power", () => {
    const talk = new Talk(ladle);
    const steps = () => readValues(talk.say("M503")).entries.find(({ id }) => id === "extruderSteps")!.value;
    talk.say("M92 E411.17");
    expect(steps()).toBe(411.17);
    talk.machine.powerCycle();
    expect(steps()).toBe(405);
    talk.say("M92 E411.17", "M500", "M92 E300");
    talk.say("M501");
    expect(steps()).toBe(411.17);
    talk.machine.powerCycle();
    expect(steps()).toBe(411.17);
    talk.say("M502");
    expect(steps()).toBe(405);
  });

  it.each(printers.map((printer) => [printer.name, printer] as const))(
    "%s reports each of its values in a line it takes itself",
    (_, printer) => {
      const talk = new Talk(printer);
      const perMinute = printer.dialect === "minute";
      const questions =
        printer.dialect === "keyword" ? ["SET_VELOCITY_LIMIT", "SET_PRESSURE_ADVANCE", "SET_RETRACTION"] : ["M503"];
      const lines = talk.say(...questions);
      const before = readValues(lines, perMinute);
      expect(before.entries.map(({ id }) => id).sort()).toEqual(Object.keys(talk.machine.memory.inForce).sort());
      expect(before.otherLines).toEqual([]);
      talk.say(
        ...lines.filter((line) => !line.startsWith("ok")).map((line) => line.replace(/^(echo:|\/\/)/, "").trim()),
      );
      expect(readValues(talk.say(...questions), perMinute).entries).toEqual(before.entries);
    },
  );

  it("restart a keyword printer when they are saved", () => {
    const talk = new Talk(sieve);
    expect(talk.say("SET_PRESSURE_ADVANCE ADVANCE=0.045", "SAVE_CONFIG")).toContain("start");
    expect(talk.machine.memory.inForce.namedPressureAdvance).toBe(0.045);
    expect(talk.say("M92 E500")[0]).toMatch(/Unknown/);
  });
});

describe("motion", () => {
  it("takes the time that look-ahead over the whole program gives", () => {
    const lines = ["G28", "G90", "M83", "M204 P1000 T1000", "G1 X20 Y20 F3000"];
    for (let i = 0; i < 60; i++) lines.push(`G1 X${60 + 30 * Math.cos(i / 4)} Y${60 + 30 * Math.sin(i / 4)} F4800`);
    const talk = new Talk(ladle);
    talk.say("G28");
    talk.settle();
    const start = talk.machine.nowS;
    talk.machine.receive(`${lines.slice(1).join("\n")}\n`);
    talk.settle();
    const took = talk.machine.nowS - start;
    const reader = new ProgramReader();
    reader.push(new TextEncoder().encode(lines.join("\n")));
    const tables = reader.finish();
    const expected = moveSeconds(tables.moves, tables.events, limitsFor(ladle)).reduce((sum, one) => sum + one, 0);
    // Sixteen moves of look-ahead see nearly as far as all of them.
    expect(Math.abs(took - expected) / expected).toBeLessThan(0.05);
  });

  it("takes a trapezoid's time for one long move: 100 mm at 50 mm/s and 1000 mm/s² in 2.05 s (arithmetic)", () => {
    const talk = new Talk(ladle);
    talk.say("G28", "M204 P1000 T1000");
    talk.settle();
    talk.machine.receive("G1 X100 F3000\n");
    expect(talk.settle()).toBeCloseTo(2.05, 1);
  });

  it("does not leave its bed once homed, and names positions by G92", () => {
    const talk = new Talk(ladle);
    talk.say("G28", "G1 X500 Y-20 F6000");
    expect(talk.machine.place).toMatchObject({ x: 220, y: 0 });
    talk.say("G92 X0", "G1 X50");
    expect(talk.machine.place.x).toBe(0);
    const [place] = talk.say("M114");
    expect(place).toMatch(/^X:0\.00 Y:0\.00 Z:0\.00 E:0\.00 Count X:17600 /);
  });

  it("goes round a full circle of r = 10 in 62.83 mm (arithmetic), in inches if told", () => {
    const talk = new Talk(ladle);
    talk.say("G28", "G1 X100 Y100 F6000");
    talk.settle();
    let length = 0;
    const add = talk.machine.planner.add.bind(talk.machine.planner);
    talk.machine.planner.add = (move, feedMmS, motion) => {
      length += Math.hypot(move.dx, move.dy);
      add(move, feedMmS, motion);
    };
    talk.say("G2 X100 Y100 I10 J0");
    expect(length).toBeCloseTo(62.83, 1);
    talk.say("G20", "G91", "G1 X1");
    // One inch is 25.4 mm exactly: NIST SP 811.
    expect(talk.machine.place.x).toBeCloseTo(125.4, 6);
  });

  it("feeds nothing through a cold nozzle, and says so", () => {
    const talk = new Talk(ladle);
    expect(talk.say("M83", "G1 E10 F100").join()).toMatch(/too cold to feed: nozzle 22 C/);
    talk.settle();
    expect(talk.machine.truth.fedMm[0]).toBe(0);
  });
});

describe("heat", () => {
  it.each(printers.map((printer) => [printer.name, printer] as const))(
    "%s comes to its temperatures and holds them",
    (_, printer) => {
      const talk = new Talk(printer);
      talk.say("M140 S60", "M109 S205");
      talk.machine.advance(180);
      const measured = Array.from({ length: 120 }, () => (talk.machine.advance(1), talk.machine.nozzles[0].trueC));
      expect(Math.max(...measured.map((one) => Math.abs(one - 205)))).toBeLessThan(1.5);
      expect(Math.abs(talk.machine.bed.trueC - 60)).toBeLessThan(1.5);
    },
  );

  it("rises at about the rate of the printer's record, falls at about its rate", () => {
    const talk = new Talk(ladle);
    talk.say("M104 S240");
    let fromC = 0;
    while (talk.machine.nozzles[0].trueC < 195) talk.machine.advance(0.25);
    fromC = talk.machine.nozzles[0].trueC;
    talk.machine.advance(4);
    // Up 2–3 °C/s, down about 1 °C/s near 200 °C: common practice, no source.
    expect((talk.machine.nozzles[0].trueC - fromC) / 4).toBeCloseTo(ladle.heaterRiseCPerS, 0);
    talk.machine.advance(60);
    talk.say("M104 S0");
    while (talk.machine.nozzles[0].trueC > 205) talk.machine.advance(0.25);
    fromC = talk.machine.nozzles[0].trueC;
    talk.machine.advance(5);
    expect((fromC - talk.machine.nozzles[0].trueC) / 5).toBeCloseTo(ladle.heaterFallCPerS, 0);
  });

  it("stops when a heater that is on does not get warmer", () => {
    const talk = new Talk(ladle);
    talk.machine.nozzles[0].broken = true;
    talk.machine.receive("M104 S200\nM140 S60\n");
    talk.machine.advance(120);
    expect(talk.heard().join()).toMatch(/Error:thermal runaway/);
    expect([talk.machine.halted, talk.machine.bed.setC]).toEqual([true, 0]);
    talk.machine.receive("M105\n");
    expect(talk.heard()).toEqual([]);
    talk.machine.powerCycle();
    expect(talk.heard()).toContain("start");
  });

  it("hears an emergency stop, and M108, while it waits", () => {
    const talk = new Talk(ladle);
    talk.machine.receive("M109 S200\nM104 S0\n");
    talk.machine.advance(5);
    talk.machine.receive("M108\n");
    talk.machine.advance(0.1);
    expect(oks(talk.heard())).toBe(3);
    talk.machine.receive("M109 S200\n");
    talk.machine.advance(5);
    talk.machine.receive("M112\n");
    expect(talk.machine.halted).toBe(true);
    expect(talk.machine.nozzles[0].setC).toBe(0);
  });

  it("reports by itself as often as it is told, if it can", () => {
    const talk = new Talk(ladle);
    talk.say("M155 S5");
    talk.machine.advance(61);
    expect(talk.heard().filter((line) => readTemperatures(line))).toHaveLength(12);
    expect(new Talk(sieve).say("M155 S1")[0]).toMatch(/Unknown/);
  });

  it("has two heaters where there are two tools, each with its own report", () => {
    const talk = new Talk(twin);
    talk.say("M104 S200 T1");
    talk.machine.advance(40);
    const report = readTemperatures(talk.say("M105")[0])!;
    expect(report.nozzles.map(({ setC }) => setC)).toEqual([0, 200]);
    expect(report.nozzles[1].measuredC).toBeGreaterThan(report.nozzles[0].measuredC + 30);
  });
});

describe("the screen", () => {
  it("drops what it cannot show; one of them ends a text at a colon", () => {
    const shown = (printer: typeof ladle) => {
      const talk = new Talk(printer);
      talk.say("M117 Band 3: 215");
      return talk.machine.display;
    };
    expect(shown(ladle)).toBe("Band 3: 215");
    expect(shown(kettle)).toBe("Band 3");
  });
});

describe("PID autotune", () => {
  it("turns a swing into figures as Ziegler and Nichols do", () => {
    // Ku = 4d/(πa), Kp = 0.6 Ku, Ti = Tu/2, Td = Tu/8 (Åström and Hägglund 1984; Ziegler and Nichols 1942).
    const { p, i, d } = pidFromSwing(8, 40, 127.5);
    const ku = (4 * 127.5) / (Math.PI * 4);
    expect([p, i, d]).toEqual([0.6 * ku, (0.6 * ku) / 20, 0.6 * ku * 5].map((value) => expect.closeTo(value, 9)));
  });

  it("finds figures with which the heater holds its temperature", () => {
    const talk = new Talk(whisk);
    const answers = talk.say("M303 E0 S210 C5").join("\n");
    const [, p, i, d] = /Kp: ([\d.]+) Ki: ([\d.]+) Kd: ([\d.]+)/.exec(answers)!;
    talk.say(`M301 P${p} I${i} D${d}`, "M109 S210");
    talk.machine.advance(90);
    const off = Array.from(
      { length: 60 },
      () => (talk.machine.advance(1), Math.abs(talk.machine.nozzles[0].trueC - 210)),
    );
    expect(Math.max(...off)).toBeLessThan(1);
  });
});
