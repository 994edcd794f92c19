import { readProgram } from "@/core/gcode/read";
import { commandAt, countCommands } from "@/core/gcode/transmit";
import { limitsFor } from "@/core/motion/limits";
import { jobProgram } from "@/core/report/progress";
import { buildTrial } from "@/core/trials/build";
import { ladle, saffron, trialOfKind } from "../helpers/demo";

const bytesOf = (text: string) => new TextEncoder().encode(text);

/** All commands of a program, one after the other. */
function commandsOf(bytes: Uint8Array): string[] {
  const found: string[] = [];
  for (let at = 0; at < bytes.length;) {
    const { text, next } = commandAt(bytes, at);
    if (text !== "") found.push(text);
    at = next;
  }
  return found;
}

describe("a program as it is sent", () => {
  it("is its commands, without comments, blank lines and line ends", () => {
    const bytes = bytesOf("; head\r\n\r\n  G28 ; home\r\nG1 X1;now\n\t\nM117 Hi\nM84");
    expect(commandsOf(bytes)).toEqual(["G28", "G1 X1", "M117 Hi", "M84"]);
    expect(countCommands(bytes)).toBe(4);
    expect(countCommands(new Uint8Array())).toBe(0);
  });

  it("is the built tower, every command once", () => {
    const trial = trialOfKind("temperature", ladle, saffron, {
      plan: { baseHeightMm: 1, bands: [{ heightMm: 5, settings: { nozzleTemperature: 210 } }] },
    });
    const { bytes } = buildTrial({ trial, printer: ladle, spool: saffron });
    const plain = new TextDecoder()
      .decode(bytes)
      .split("\n")
      .map((line) => line.split(";", 1)[0].trim())
      .filter((line) => line !== "");
    expect(commandsOf(bytes)).toEqual(plain);
    expect(countCommands(bytes)).toBe(plain.length);
  });
});

describe("height and time at a line", () => {
  it("grow with what is laid; travels and lifts alone do not count as height", () => {
    const lines = [
      "G28",
      "M83",
      "G1 Z0.2 F600",
      "G1 X10 Y10 F6000",
      "G1 X60 E2 F3000",
      "G1 Z5 F600",
      "G1 X10 F6000",
      "G1 Z0.4 F600",
      "G1 X60 E2 F3000",
      "M84",
    ];
    const bytes = bytesOf(lines.join("\n"));
    const program = jobProgram(bytes, readProgram(bytes), limitsFor(ladle));
    expect([...program.heightMm].map((mm) => Math.round(mm * 100) / 100)).toEqual([
      0, 0, 0, 0, 0.2, 0.2, 0.2, 0.2, 0.4, 0.4, 0.4,
    ]);
    const { seconds } = program;
    expect([...seconds].every((value, i) => i === 0 || value >= seconds[i - 1])).toBe(true);
    // 50 mm at 50 mm/s and 1000 mm/s²: 1.05 s (arithmetic), a little less with jerk.
    expect(seconds[4] - seconds[3]).toBeCloseTo(1.05, 1);
    expect(program.commands).toBe(lines.length);
    expect(program.log.tops.map((top) => Math.round(top * 10) / 10)).toEqual([0.2, 0.4]);
  });
});
