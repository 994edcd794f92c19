import { Line, LineScanner, LONGEST_LINE_BYTES, splitWords } from "@/core/gcode/scan";
import { bytesOf } from "../helpers/programs";

interface Seen {
  words: string;
  comment: string;
  number: number;
  startByte: number;
  endByte: number;
  named: boolean;
  damaged: boolean;
}

function scan(text: string | Uint8Array, chunkSize = Infinity): Seen[] {
  const seen: Seen[] = [];
  const scanner = new LineScanner((line) => {
    const words: string[] = [];
    for (let i = 0; i < line.wordCount; i++) words.push(`${String.fromCharCode(line.letters[i])}${line.values[i]}`);
    const { number, startByte, endByte, named, damaged } = line;
    seen.push({ words: words.join(" "), comment: line.comment(), number, startByte, endByte, named, damaged });
  });
  const bytes = typeof text === "string" ? bytesOf(text) : text;
  for (let at = 0; at < bytes.length; at += Math.min(chunkSize, bytes.length)) {
    scanner.push(bytes.slice(at, at + Math.min(chunkSize, bytes.length)));
  }
  scanner.end();
  return seen;
}

const words = (text: string) => scan(text)[0].words;

describe("splitting a line into words", () => {
  // Letter case, spaces and leading zeros do not count: NIST RS274/NGC Interpreter, version 3 (NISTIR 6556), section 3.3.
  test.each([
    ["G1 X10 Y20.5 E0.12345 F1800", "G1 X10 Y20.5 E0.12345 F1800"],
    ["g1x10y20.5e.5", "G1 X10 Y20.5 E0.5"],
    ["G01 X 10 Y  -0.50", "G1 X10 Y-0.5"],
    ["  G0\tX+3.", "G0 X3"],
    ["G28 X Y", "G28 XNaN YNaN"],
    ["N120 G1 X1 *33", "G1 X1"],
    ["N5", ""],
    ["\n", ""],
    ["   ", ""],
    ["X1E5", "X1 E5"],
    ["G1 X1.2.3", "G1 X1.2"],
    ["G1 X--3", "G1 XNaN"],
    ["T1", "T1"],
    ["G90 G1 X5", "G90 G1 X5"],
    ["G92.1", "G92.1"],
  ])("%j", (line, expected) => {
    expect(words(line)).toBe(expected);
  });

  test("numbers are exact, also long ones", () => {
    const line = new Line();
    const read = (text: string) => {
      const bytes = bytesOf(`X${text}`);
      splitWords(line, bytes, 0, bytes.length);
      return line.values[0];
    };
    for (const text of [
      "0.1",
      "123.456",
      "-0.00001",
      "99999.99999",
      "123456789",
      "1234567890.5",
      "0.123456789012345",
    ]) {
      expect(read(text)).toBe(Number(text));
    }
  });

  test("comments after a semicolon, in brackets, and behind a checksum", () => {
    expect(scan("G1 X1 ; to the left")[0]).toMatchObject({ words: "G1 X1", comment: "to the left" });
    expect(scan("G1 (not X9) X1 (nor Y9)")[0]).toMatchObject({ words: "G1 X1", comment: "not X9" });
    expect(scan("N3 T0*57 ; choose")[0]).toMatchObject({ words: "T0", comment: "choose" });
    expect(scan("G1 X1 (never closed")[0]).toMatchObject({ words: "G1 X1", comment: "never closed" });
  });

  test("quoted text is passed over, with whatever stands in it", () => {
    expect(scan('M98 P"macro ; X5 G1" X2')[0]).toMatchObject({ words: "M98 PNaN X2", comment: "" });
    expect(scan('G1 X1 "never closed')[0].words).toBe("G1 X1");
  });

  test("free text of display commands is not read as words", () => {
    expect(words("M117 Go X5 slow E9")).toBe("M117");
    expect(scan("M117 Hi ; there")[0].comment).toBe("there");
  });

  test("commands whose name is a word are told apart", () => {
    expect(scan("SET_VELOCITY_LIMIT ACCEL=500 ; quick")[0]).toMatchObject({ named: true, words: "", comment: "quick" });
    expect(scan("G1X5")[0].named).toBe(false);
  });

  test("more words than any command has are left out, not an error", () => {
    expect(words(`G1 ${"X1 ".repeat(60)}`).split(" ")).toHaveLength(32);
  });

  // Check vectors from memory.
  test.each([
    ["N3 T0*57", false],
    ["N4 G92 E0*67", false],
    ["N5 G28*22", false],
    ["N6 G1 F1500.0*82", false],
    ["N6 G1 F1500.0*83", true],
  ])("checksum of %s", (line, damaged) => {
    expect(scan(line)[0].damaged).toBe(damaged);
  });
});

describe("cutting a stream into lines", () => {
  const program = "G28\r\nG1 X1 ; one\nG1 X2\n\nlast line without end";

  test("line numbers and byte places, whatever the chunks are", () => {
    const whole = scan(program);
    expect(whole.map(({ number }) => number)).toEqual([0, 1, 2, 3, 4]);
    expect(whole[0]).toMatchObject({ startByte: 0, endByte: 5 });
    expect(whole[4].endByte).toBe(bytesOf(program).length);
    for (const size of [1, 2, 3, 5, 7, 11]) expect(scan(program, size)).toEqual(whole);
  });

  test("the line end of the first line is told", () => {
    const scanner = new LineScanner(() => undefined);
    scanner.push(bytesOf("G28\r\nG1\r\n"));
    expect(scanner.lineEnd).toBe("\r\n");
    expect(scanner.lineCount).toBe(2);
  });

  test("a byte-order mark is passed over", () => {
    expect(scan(new Uint8Array([0xef, 0xbb, 0xbf, ...bytesOf("G28\n")]))[0].words).toBe("G28");
  });

  test("a line longer than any program line is counted and passed over", () => {
    let lines = 0;
    const scanner = new LineScanner((line) => {
      lines++;
      if (line.number === 1) expect(line.wordCount).toBe(0);
    });
    const long = new Uint8Array(LONGEST_LINE_BYTES + 10).fill(65);
    scanner.push(bytesOf("G28\n"));
    scanner.push(long);
    scanner.push(long);
    scanner.push(bytesOf("\nG1 X1\n"));
    scanner.end();
    expect(lines).toBe(3);
    expect(scanner.overlongLines).toBe(1);
  });
});
