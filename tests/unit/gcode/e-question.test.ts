import { ProgramReader, readProgram } from "@/core/gcode/read";
import { readingOf } from "@/core/machine/reading";
import { bytesOf } from "../helpers/programs";

/** A lift by G91 and G90 behind M83, then figures of E that tell how they count. */
const lifted = (figures: number[]) =>
  [
    ...["M104 S200", "G28", "M109 S200", "M83", "G91", "G1 Z5 F600", "G90", "; layer 0", "G1 X10 Y10 Z0.2 F6000"],
    ...figures.map((e, i) => `G1 X${10 + (i % 2) * 20} Y${10 + i} E${e} F1800`),
    "",
  ].join("\n");
const relative = lifted([0.676, 0.676, 0.5, 0.676, 0.8, 0.676]);
const absolute = lifted([0.676, 1.352, 1.9, 2.6, 3.2, 4]);
const few = lifted([0.676, 1.4]);
const jerk = readingOf({ dialect: "jerk", tools: 1, fanPerTool: false });
const keyword = readingOf({ dialect: "keyword", tools: 1, fanPerTool: false });
const fed = (text: string, reading = jerk) => readProgram(text, { reading }).filamentPerToolMm[0];

test("the file's own figures tell what G90 did to E, whatever the printer's dialect would", () => {
  for (const reading of [jerk, keyword]) {
    expect(fed(relative, reading)).toBeCloseTo(0.676 * 4 + 0.5 + 0.8, 6);
    expect(fed(absolute, reading)).toBeCloseTo(4, 6);
  }
  expect(readProgram(relative, { reading: jerk }).assumedE).toEqual({ line: 6, relative: true, told: true });
  expect(readProgram(absolute, { reading: keyword }).assumedE).toEqual({ line: 6, relative: false, told: true });
});

test("where they do not tell, the dialect counts, and that is said", () => {
  expect(fed(few, jerk)).toBeCloseTo(1.4, 6);
  expect(fed(few, keyword)).toBeCloseTo(2.076, 6);
  expect(readProgram(few, { reading: keyword }).assumedE).toEqual({ line: 6, relative: true, told: false });
});

test("where nothing is fed behind the G90, there is nothing to assume", () => {
  const parked = `${relative.replace("G91\nG1 Z5 F600\nG90\n", "")}G91\nG1 Z10\nG90\nG0 X0 Y200\nM84\n`;
  expect(readProgram(parked, { reading: jerk }).assumedE).toBeNull();
  expect(readProgram(`${parked}G1 E-5 F1800\n`, { reading: jerk }).assumedE).toMatchObject({ told: false });
});

test("a program that was written for its printer here is not asked, and one that says M83 again needs no asking", () => {
  expect(readProgram(relative, { reading: jerk, asksProgram: false }).assumedE).toBeNull();
  const said = relative.replace("G90\n", "G90\nM83\n");
  expect(fed(said)).toBeCloseTo(fed(relative), 9);
});

test.each([1, 7, 61])("held lines come out the same in chunks of %d bytes", (size) => {
  const reader = new ProgramReader(0, { reading: jerk });
  const bytes = bytesOf(relative);
  for (let at = 0; at < bytes.length; at += size) reader.push(bytes.slice(at, at + size));
  const { moves, layers, lineCount } = reader.finish();
  const whole = readProgram(relative, { reading: jerk });
  expect([moves, layers, lineCount]).toEqual([whole.moves, whole.layers, whole.lineCount]);
});
