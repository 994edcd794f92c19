import fc from "fast-check";
import { laysMaterial } from "@/core/gcode/moves";
import { ProgramReader, readProgram } from "@/core/gcode/read";
import { bytesOf, squareTube } from "../helpers/programs";

/** A small generator with a fixed seed, so that a failure can be repeated. */
function randomNumbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

test("no input of 20,000 mutated lines makes the reader throw", () => {
  const random = randomNumbers(20261125);
  const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)];
  const whole = squareTube({ layers: 60, opens: (i) => `; deck ${i}` }).split("\n");
  const pieces = [
    "G",
    "M",
    "X",
    "-",
    ".",
    "(",
    ")",
    ";",
    '"',
    "*",
    "N",
    "E",
    "\0",
    "é",
    "G2 I0 J0",
    "NaN",
    "1e9",
    "9".repeat(400),
    "  ",
    "G92",
    "T300",
    "M106 S-5",
  ];
  let lines: string[] = [];
  for (let i = 0; i < 20_000; i++) {
    let line = pick(whole);
    for (let change = 0; change < 1 + random() * 3; change++) {
      const at = Math.floor(random() * (line.length + 1));
      const what = random();
      if (what < 0.4) line = line.slice(0, at) + pick(pieces) + line.slice(at);
      else if (what < 0.7) line = line.slice(0, at) + line.slice(at + 1 + Math.floor(random() * 4));
      else line = line.slice(0, at) + String.fromCharCode(Math.floor(random() * 300)) + line.slice(at + 1);
    }
    lines.push(line);
    if (lines.length === 500) {
      const tables = readProgram(lines.join(pick(["\n", "\r\n"])));
      expect(tables.lineCount).toBeGreaterThanOrEqual(500);
      expect(tables.moves.layer).toHaveLength(tables.moves.count);
      lines = [];
    }
  }
});

test("any bytes in any chunks read the same as in one piece", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), fc.integer({ min: 1, max: 50 }), (bytes, size) => {
      const whole = readProgram(bytes);
      const reader = new ProgramReader();
      for (let at = 0; at < bytes.length; at += size) reader.push(bytes.slice(at, at + size));
      const pieces = reader.finish();
      expect(pieces.lineCount).toBe(whole.lineCount);
      expect(pieces.moves).toEqual(whole.moves);
      expect(pieces.layers).toEqual(whole.layers);
    }),
    { numRuns: 300 },
  );
});

/** The same program written in another hand. */
const hands: [string, (text: string) => string][] = [
  ["lower case", (text) => text.toLowerCase()],
  ["no spaces", (text) => text.replace(/^([GM].*)$/gm, (line) => line.replace(/ (?=[XYZEFS])/g, ""))],
  ["CRLF", (text) => text.replace(/\n/g, "\r\n")],
  [
    "numbered with checksums",
    (text) =>
      text
        .split("\n")
        .map((line, i) => (line && !line.startsWith(";") ? withChecksum(`N${i} ${line}`) : line))
        .join("\n"),
  ],
  ["comments in brackets", (text) => text.replace(/; (.*)$/gm, "($1)")],
  ["a byte-order mark and no last line end", (text) => `\ufeff${text.trimEnd()}`],
  ["padded", (text) => text.replace(/^/gm, "  ").replace(/ /g, "   ")],
  ["a comment on every line", (text) => text.replace(/^([GM][^;\n]*)$/gm, "$1 ; noted")],
];

function withChecksum(line: string): string {
  let sum = 0;
  for (const byte of bytesOf(line)) sum ^= byte;
  return `${line}*${sum}`;
}

test.each(hands)("%s reads the same", (_, rewrite) => {
  const text = squareTube({ layers: 12, opens: (i) => `; deck ${i}`, hopMm: 0.3 });
  const plain = readProgram(text);
  const other = readProgram(rewrite(text));
  expect(other.moves.count).toBe(plain.moves.count);
  expect(other.moves.x).toEqual(plain.moves.x);
  expect(other.moves.filamentMm).toEqual(plain.moves.filamentMm);
  expect(other.layers.map(({ zMm, marker }) => [zMm, marker])).toEqual(
    plain.layers.map(({ zMm, marker }) => [zMm, marker]),
  );
  expect(other.damagedLines).toBe(0);
  expect(other.events.value).toEqual(plain.events.value);
});

test("filament in the table is filament in the program", () => {
  const tables = readProgram(squareTube({ layers: 10 }));
  let laid = 0;
  for (let i = 0; i < tables.moves.count; i++)
    if (laysMaterial(tables.moves.kind[i])) laid += tables.moves.filamentMm[i];
  expect(laid).toBeCloseTo(10 * 80 * 0.0338, 2);
  expect(tables.filamentPerToolMm[0]).toBeCloseTo(laid, 3);
});
