/** How long a line is waited for: by what it is. */
import { readBlank } from "@/core/link/blank";
import { heatIsLife, MovesAhead, patienceFor, textIsLife } from "@/core/link/patience";
import { freshState } from "@/core/machine/state";

const patience = (line: string, state = freshState()) => patienceFor(line, state);

test.each([
  ["M109 S210", "heat", 600],
  ["M190 S60", "heat", 600],
  ["G28", "homing", 60],
  ["G29", "probing", 300],
  ["G30 X10 Y10", "probing", 300],
  ["G34", "probing", 300],
  ["M191 S40", "heat", 600],
  // Somebody has to come and change the filament: an hour is nothing.
  ["M600", "person", 3600],
  ["M601", "person", 3600],
  ["M125 X10 Y10", "person", 3600],
  ["M226 P2 S1", "person", 3600],
  ["M701 T0", "person", 3600],
  ["M303 E0 S200 C8", "tuning", 600],
  ["M400", "still", 60],
  // G4 counts P in milliseconds and S in seconds; common practice, no source.
  ["G4 S90", "dwell", 90],
  ["G4 P1500", "dwell", 1.5],
])("%s is waited for as %s, at least %d s longer", (line, waits, leastS) => {
  expect(patience(line).waits).toBe(waits);
  expect(patience(line).extraS).toBeGreaterThanOrEqual(leastS);
});

test.each(["M104 S200", "M105", "G90", "M117 wait G28", "nonsense", ""])("%j is done at once", (line) => {
  expect(patience(line)).toEqual({ extraS: 0, waits: null, moveS: 0 });
});

test("a move is waited for by its length and feed, in millimetres and in inches", () => {
  const state = { ...freshState(), x: 10, y: 0 };
  // 300 mm at 300 mm/min take a minute.
  expect(patience("G1 X310 F300", state).moveS).toBeCloseTo(60, 6);
  // 10 in at 10 in/min take a minute, too (1 in = 25.4 mm, NIST SP 811).
  expect(patience("G1 X10 F10", { ...freshState(), unitMm: 25.4 }).moveS).toBeCloseTo(60, 6);
  expect(patience("G1 E60 F60", state).moveS).toBeCloseTo(60, 6);
  // A full circle of radius 10 mm at 60 mm/min: 2 π 10 s.
  expect(patience("G2 X10 I10 F60", state).moveS).toBeCloseTo(20 * Math.PI, 6);
});

test("moves planned ahead count until they are out of the buffer", () => {
  const ahead = new MovesAhead();
  ahead.add(40);
  for (let i = 0; i < 31; i++) ahead.add(0.1);
  expect(ahead.slowestS()).toBeGreaterThan(40);
  ahead.add(0.1);
  expect(ahead.slowestS()).toBeLessThan(1);
});

test("temperatures are a sign of life only where they are waited for", () => {
  expect([patience("M109 S200"), patience("G1 X5")].map(heatIsLife)).toEqual([true, false]);
  expect([patience("G29"), patience("M503")].map(textIsLife)).toEqual([true, false]);
});

test.each([
  ["", true],
  ["   \t", true],
  ["; note", true],
  ["(note) ; more", true],
  ["(open", true],
  ["G28 ; home", false],
  ["(first) G28", false],
  ["hello", false],
])("%j holds no command: %s", (line, blank) => {
  expect(readBlank(line)).toBe(blank);
});
