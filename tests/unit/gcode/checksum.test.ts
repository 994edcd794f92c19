import { numberedLine, xorChecksum } from "@/core/gcode/checksum";
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
