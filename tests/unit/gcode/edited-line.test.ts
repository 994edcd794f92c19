/**
 * A line with other figures. What a reader takes from it is the new figure and every other word as it was; what it does not take stays byte
 * for byte. Word syntax after NIST RS274/NGC Interpreter, version 3, 3.3: blanks within words, comments in brackets anywhere.
 */
import fc from "fast-check";
import { EditedLine } from "@/core/gcode/edited-line";
import { figureOf, withWord } from "@/core/gcode/line-change";
import { Line, splitWords } from "@/core/gcode/scan";
import { plainNumber } from "@/core/units";
import { bytesOf } from "../helpers/programs";

const edited = new EditedLine();
const byte = (letter: string) => letter.charCodeAt(0);

function wordsOf(text: string): [letter: string, value: number][] {
  const line = new Line();
  const bytes = bytesOf(`${text}\n`);
  splitWords(line, bytes, 0, bytes.length - 1);
  return Array.from({ length: line.wordCount }, (_, i) => [String.fromCharCode(line.letters[i]), line.values[i]]);
}

test.each([
  ["G1 X1 Y2 F1800", "F", "900", "G1 X1 Y2 F900"],
  ["G1X1.5Y2E-.25", "E", "0.1", "G1X1.5Y2E0.1"],
  ["g1 x 1.5 (x9 of old) y2", "X", "-3", "g1 x -3 (x9 of old) y2"],
  ["G1 (X9) X1 ; X5", "X", "2", "G1 (X9) X2 ; X5"],
  ["G90 G1 X5 F1", "F", "2", "G90 G1 X5 F2"],
  // In `E1e-05` the figure has an exponent; in `F2100E-1` the E is a word of its own.
  ["G1 X1 E1e-05 F60", "E", "0.5", "G1 X1 E0.5 F60"],
  ["G1F2100E-1", "F", "1200", "G1F1200E-1"],
  ["G1 X1 ; plain", "F", "600", "G1 X1 F600 ; plain"],
  ["G1 X1 (here) Y2 (there)", "F", "600", "G1 X1 (here) Y2 F600 (there)"],
])("%s with %s as %s is %s", (text, letter, figure, after) => {
  expect(withWord(text, letter, figure)).toBe(after);
  expect(figureOf(withWord(text, letter, figure), letter)).toBe(Number(figure));
});

test("a figure that a line has not, and one that stands in its comment only, is none", () => {
  expect(figureOf("G1 X1 ; E5", "E")).toBeNull();
  expect(figureOf("G1 X1 (E5)", "E")).toBeNull();
  expect(figureOf("G28 X Y", "X")).toBeNull();
  expect(figureOf("M117 X5", "X")).toBeNull();
});

test("figures are written as tables show them, whatever their size and sign", () => {
  const value = fc.oneof(
    fc.double({ min: -5000, max: 5000, noNaN: true }),
    fc.double({ min: -0.001, max: 0.001, noNaN: true }),
    fc.integer({ min: -100_000, max: 100_000 }),
    fc.double({ min: -1e17, max: 1e17, noNaN: true }),
  );
  fc.assert(
    fc.property(value, fc.integer({ min: 0, max: 9 }), (wanted, decimals) => {
      edited.takeText("G1 X1.25 Y7");
      edited.setFigure(edited.wordOf(byte("X")), wanted, decimals);
      expect(edited.text()).toBe(`G1 X${plainNumber(wanted, decimals)} Y7`);
    }),
    { numRuns: 3000 },
  );
});

test("every other word, every comment and every blank stays; several figures of one line can be changed", () => {
  const figure = fc.oneof(
    fc.integer({ min: -500, max: 500 }).map(String),
    fc.double({ min: -300, max: 300, noNaN: true }).map((one) => one.toFixed(3)),
    fc.constantFrom(".5", "-.25", "+7", "12."),
  );
  const blank = fc.constantFrom("", " ", "  ", " (a Z1 b) ");
  const words = fc.uniqueArray(fc.tuple(fc.constantFrom(..."XYZEF"), blank, fc.constantFrom("", " "), figure), {
    selector: ([letter]) => letter,
    minLength: 1,
  });
  const line = fc.tuple(words, fc.constantFrom("", " ; X1 was here", "; größer"));
  fc.assert(
    fc.property(
      line,
      fc.array(fc.tuple(fc.constantFrom(..."XYZEF"), fc.integer({ min: -99, max: 99 }))),
      (all, puts) => {
        const [own, comment] = all;
        const write = (figures: ReadonlyMap<string, string>) =>
          `G1${own.map(([letter, before, within, written]) => `${before}${letter}${within}${figures.get(letter) ?? written}`).join("")}${comment}`;
        const figures = new Map<string, string>();
        edited.takeText(write(figures));
        for (const [letter, value] of puts) {
          const word = edited.wordOf(byte(letter));
          if (word < 0) continue;
          edited.setFigure(word, value / 4, 2);
          figures.set(letter, plainNumber(value / 4, 2));
          expect(edited.figureOf(edited.wordOf(byte(letter)))).toBe(value / 4);
        }
        expect(edited.text()).toBe(write(figures));
        expect(Buffer.from(edited.lent("\r\n")).toString()).toBe(`${write(figures)}\r\n`);
        expect(wordsOf(edited.text()).length).toBe(own.length + 1);
      },
    ),
    { numRuns: 1000 },
  );
});
