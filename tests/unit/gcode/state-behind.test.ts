/** What a machine holds in the middle of a program, hand-worked, however its lines end and whatever is still to be asked of its figures. */
import { stateBehind } from "@/core/gcode/state-behind";
import { usualReading } from "@/core/machine/reading";
import { bytesOf } from "../helpers/programs";

const lines = ["M83", "M104 S215", "G28", "G90", "G1 X10 Y20 Z0.2 F3000"];
for (let i = 0; i < 30; i++) lines.push(`G1 X${10 + (i % 2) * 20} Y${20 + i} E0.7 F1800`);
lines.push("G91", "G0 Z5", "G90", "M104 S0", "G0 X0 Y200", "");

describe.each([
  ["LF", "\n"],
  ["CRLF", "\r\n"],
  ["CR", "\r"],
])("lines that end with %s", (_, end) => {
  const behind = (line: number, sizes = 1e9) => {
    const bytes = bytesOf(lines.join(end));
    const chunks = [];
    for (let at = 0; at < bytes.length; at += sizes) chunks.push(bytes.subarray(at, at + sizes));
    return stateBehind(chunks, line, { reading: usualReading });
  };

  test.each([1e9, 64, 7])("in pieces of %d bytes", (sizes) => {
    expect(behind(1, sizes)).toMatchObject({ x: 0, nozzleC: [215], e: 0 });
    expect(behind(4, sizes)).toMatchObject({ x: 10, y: 20, z: 0.2, feedMmMin: 3000 });
    // The figures behind G90 fall as often as they rise: E still counts from where it stands, and that holds at the third bead, too.
    const third = behind(7, sizes);
    expect(third).toMatchObject({ x: 10, y: 22, relativeE: true });
    expect(third.e).toBeCloseTo(2.1, 6);
    expect(behind(lines.length - 3, sizes)).toMatchObject({ z: 5.2, nozzleC: [0], x: 30 });
    expect(behind(10_000, sizes)).toMatchObject({ x: 0, y: 200 });
  });
});
