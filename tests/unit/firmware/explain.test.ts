import fc from "fast-check";
import { completions, commandFor, commands } from "@/core/machine/commands";
import { readTalkLine } from "@/core/gcode/talk-line";
import { dangerOf } from "@/core/firmware/danger";
import { explainAnswer, explainLine } from "@/core/firmware/explain";

const words = (line: string) => Object.fromEntries(explainLine(line).parts.map(({ text, means }) => [text, means]));
const fields = (line: string) => Object.fromEntries(explainAnswer(line).parts.map(({ text, means }) => [text, means]));

describe("a line that is sent", () => {
  it("is explained word by word", () => {
    expect(words("M109 R210 T1")).toEqual({
      M109: "Sets the nozzle's temperature and waits",
      R210: "°C, waits while heating or cooling",
      T1: "tool",
    });
    expect(words("M92 E411.17")).toEqual({ M92: "Steps per millimetre", "E411.17": "extruder, steps/mm" });
    expect(words("SET_RETRACTION RETRACT_LENGTH=1.2")["RETRACT_LENGTH=1.2"]).toBe("length, mm");
    expect(explainLine("G28 X Y").parts.map(({ text }) => text)).toEqual(["G28", "X", "Y"]);
    expect(words("M117 Band 3: hot")["Band 3: hot"]).toBe("the text");
  });

  it("says whether its checksum fits (check vectors from memory)", () => {
    for (const line of ["N3 T0*57", "N4 G92 E0*67", "N5 G28*22", "N6 G1 F1500.0*82"]) {
      expect(explainLine(line).parts.at(-1)!.means).toBe("checksum, fits the line");
    }
    expect(explainLine("N5 G28*23").parts.at(-1)!.means).toContain("the line's own is 22");
  });

  it("is said to be unknown if it is", () => {
    expect(explainLine("M9999 S1").title).toMatch(/Not in the firmware table/);
    expect(explainLine("; hello").title).toMatch(/comment/i);
    expect(explainLine("").title).toBe("Nothing");
  });

  it("covers every command of the table and every word of its examples", () => {
    const examples = commands.flatMap(({ example }) => (example ? [example] : []));
    const unknown = examples.flatMap((line) => explainLine(line).parts.filter(({ means }) => /not a word/.test(means)));
    expect(unknown).toEqual([]);
    expect(new Set(commands.map(({ code }) => code)).size).toBe(commands.length);
    expect(commandFor("g01")?.does).toBe(commandFor("G1")?.does);
  });
});

describe("a line that came back", () => {
  // Report shapes: common practice, no source.
  it("is explained field by field", () => {
    expect(fields("ok T:200.0 /200.0 B:60.0 /60.0 @:64 B@:30")).toEqual({
      "T:200.0 /200.0": "nozzle at 200 °C, told to reach 200 °C",
      "B:60.0 /60.0": "bed at 60 °C, told to reach 60 °C",
      "@:64": "nozzle heater's power, 64 of 127 or 255",
      "B@:30": "bed heater's power, 30 of 127 or 255",
    });
    expect(fields("X:1.00 Y:2.00 Z:0.30 E:4.00 Count X:80 Y:160 Z:120")["Count X:80 Y:160 Z:120"]).toMatch(
      /motor steps/,
    );
    expect(fields("Cap:EEPROM:1").EEPROM).toBe("keeps saved values when the power is off: yes");
    expect(fields("echo:  M92 X80.00 E405.00")["E405.00"]).toBe("extruder, steps/mm");
    expect(fields("M566 X480.00")["X480.00"]).toBe("X, jerk, mm/min");
    expect(fields("FIRMWARE_NAME:Skillet 2.1 EXTRUDER_COUNT:1")).toEqual({
      "FIRMWARE_NAME:Skillet 2.1": "the firmware and its version",
      "EXTRUDER_COUNT:1": "number of extruders",
    });
    expect(explainAnswer("Resend: 7").title).toBe("Asks for line 7 again");
    expect(explainAnswer("echo:busy: processing").title).toBe("Still at work");
    expect(explainAnswer('echo:Unknown command: "FOO"').title).toMatch(/does not know/);
  });

  it("never breaks, whatever comes", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 80 }), (text) => {
        explainAnswer(text);
        explainLine(text);
        readTalkLine(text);
      }),
    );
  });
});

describe("completion", () => {
  it("offers what begins so, then what means it", () => {
    expect(completions("m10").map(({ code }) => code)).toEqual(["M104", "M109", "M105", "M108", "M106", "M107"]);
    expect(completions("home").map(({ code }) => code)).toContain("G28");
    expect(completions("")).toEqual([]);
  });
});

describe("danger", () => {
  const known = { homed: null, nozzleC: null };
  it.each([
    ["M104 S210", "heater"],
    ["M190 R60", "heater"],
    ["M303 E0 S200 C5", "heater"],
    ["SET_HEATER_TEMPERATURE HEATER=extruder TARGET=250", "heater"],
    ["G10 P0 S240", "heater"],
    ["M104S240", "heater"],
    ["M500", "saving"],
    ["M502", "saving"],
    ["SAVE_CONFIG", "saving"],
    ["G1 X10", "unhomed"],
    ["G1 E5 F100", "cold"],
  ])("%s is asked about as %s", (line, kind) => {
    expect(dangerOf(line, known)?.kind).toBe(kind);
  });

  it.each(["M104 S0", "M105", "M503", "G28", "M117 M104 S200", "G4 S1"])("%s is not", (line) => {
    expect(dangerOf(line, known)).toBeNull();
  });

  it("knows what was homed and how hot the nozzle is", () => {
    expect(dangerOf("G1 X10 E1", { homed: true, nozzleC: 205 })).toBeNull();
    expect(dangerOf("G1 X10 E1", { homed: true, nozzleC: 60 })?.reason).toContain("60 °C");
  });
});
