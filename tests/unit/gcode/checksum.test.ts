import { numberedLine, xorChecksum } from "@/core/gcode/checksum";
import { readTalkLine } from "@/core/gcode/talk-line";
import { bytesOf } from "../helpers/programs";

// Check vectors from memory.
test.each([
  [3, "T0", "N3 T0*57"],
  [4, "G92 E0", "N4 G92 E0*67"],
  [5, "G28", "N5 G28*22"],
  [6, "G1 F1500.0", "N6 G1 F1500.0*82"],
])("line %i, %s", (number, command, line) => {
  expect(numberedLine(number, command)).toBe(line);
});

test("a part of the bytes can be summed", () => {
  const bytes = bytesOf("N3 T0*57");
  expect(xorChecksum(bytes, 0, 5)).toBe(57);
  expect(xorChecksum(bytes, 5, 5)).toBe(0);
});

test("a named command is the same with the number and checksum of a transmitted line, and without", () => {
  for (const text of ["SET_VELOCITY_LIMIT ACCEL=1000", 'SET_PRESSURE_ADVANCE ADVANCE=0.05 EXTRUDER="e*1"']) {
    const bare = readTalkLine(text);
    const sent = readTalkLine(`${numberedLine(5, text)} ; on its way`);
    expect([sent.code, sent.words, sent.number]).toEqual([bare.code, bare.words, 5]);
    expect(sent.checksum).toBe(xorChecksum(new TextEncoder().encode(`N5 ${text}`)));
  }
});
