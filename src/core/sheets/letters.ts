/**
 * Letters in single strokes, drawn for this: a cell 4 units high, its strokes as places `x y` along a line without lifting. Made for a bead, so
 * that nothing is finer than a unit.
 */
const drawn: Record<string, { wide: number; strokes: string[] }> = {
  A: { wide: 3, strokes: ["0 0 1.5 4 3 0", "0.6 1.6 2.4 1.6"] },
  B: { wide: 2.6, strokes: ["0 2 2 2 2.6 1.4 2.6 0.6 2 0 0 0 0 4 1.8 4 2.4 3.5 2.4 2.5 1.8 2"] },
  C: { wide: 2.6, strokes: ["2.6 3.2 1.9 4 0.7 4 0 3.2 0 0.8 0.7 0 1.9 0 2.6 0.8"] },
  D: { wide: 2.7, strokes: ["0 0 0 4 1.7 4 2.7 3 2.7 1 1.7 0 0 0"] },
  E: { wide: 2.3, strokes: ["2.3 0 0 0 0 4 2.3 4", "0 2 1.9 2"] },
  F: { wide: 2.3, strokes: ["0 0 0 4 2.3 4", "0 2 1.9 2"] },
  G: { wide: 2.7, strokes: ["2.6 3.2 1.9 4 0.7 4 0 3.2 0 0.8 0.7 0 1.9 0 2.7 0.8 2.7 1.8 1.5 1.8"] },
  H: { wide: 2.6, strokes: ["0 0 0 4", "0 2 2.6 2", "2.6 4 2.6 0"] },
  I: { wide: 0.4, strokes: ["0.2 0 0.2 4"] },
  J: { wide: 2, strokes: ["0 0.8 0.6 0 1.4 0 2 0.8 2 4"] },
  K: { wide: 2.6, strokes: ["0 0 0 4", "2.6 4 0 1.8", "0.9 2.5 2.6 0"] },
  L: { wide: 2.2, strokes: ["0 4 0 0 2.2 0"] },
  M: { wide: 3.4, strokes: ["0 0 0 4 1.7 1.4 3.4 4 3.4 0"] },
  N: { wide: 2.8, strokes: ["0 0 0 4 2.8 0 2.8 4"] },
  O: { wide: 3, strokes: ["0.8 0 0 0.9 0 3.1 0.8 4 2.2 4 3 3.1 3 0.9 2.2 0 0.8 0"] },
  P: { wide: 2.5, strokes: ["0 0 0 4 1.8 4 2.5 3.4 2.5 2.4 1.8 1.8 0 1.8"] },
  Q: { wide: 3, strokes: ["0.8 0 0 0.9 0 3.1 0.8 4 2.2 4 3 3.1 3 0.9 2.2 0 0.8 0", "1.8 1.2 3 -0.3"] },
  R: { wide: 2.6, strokes: ["0 0 0 4 1.8 4 2.5 3.4 2.5 2.6 1.8 2 0 2", "1.3 2 2.6 0"] },
  S: { wide: 2.5, strokes: ["0 0.7 0.7 0 1.8 0 2.5 0.7 2.5 1.4 1.9 2 0.6 2 0 2.6 0 3.3 0.7 4 1.8 4 2.5 3.3"] },
  T: { wide: 2.8, strokes: ["0 4 2.8 4", "1.4 4 1.4 0"] },
  U: { wide: 2.7, strokes: ["0 4 0 0.8 0.7 0 2 0 2.7 0.8 2.7 4"] },
  V: { wide: 2.8, strokes: ["0 4 1.4 0 2.8 4"] },
  W: { wide: 3.8, strokes: ["0 4 0.9 0 1.9 2.8 2.9 0 3.8 4"] },
  X: { wide: 2.8, strokes: ["0 0 2.8 4", "0 4 2.8 0"] },
  Y: { wide: 2.8, strokes: ["0 4 1.4 2 2.8 4", "1.4 2 1.4 0"] },
  Z: { wide: 2.6, strokes: ["0 4 2.6 4 0 0 2.6 0"] },
  "0": { wide: 2.4, strokes: ["0.7 0 0 0.9 0 3.1 0.7 4 1.7 4 2.4 3.1 2.4 0.9 1.7 0 0.7 0"] },
  "1": { wide: 1.2, strokes: ["0 3 1.2 4 1.2 0"] },
  "2": { wide: 2.4, strokes: ["0 3.2 0.7 4 1.7 4 2.4 3.2 2.4 2.5 0 0 2.4 0"] },
  "3": { wide: 2.4, strokes: ["0 4 2.4 4 1.1 2.3 1.8 2.3 2.4 1.6 2.4 0.7 1.7 0 0.7 0 0 0.7"] },
  "4": { wide: 2.5, strokes: ["1.9 0 1.9 4 0 1.2 2.5 1.2"] },
  "5": { wide: 2.4, strokes: ["2.2 4 0.2 4 0 2.2 1.7 2.2 2.4 1.5 2.4 0.7 1.7 0 0.7 0 0 0.6"] },
  "6": { wide: 2.4, strokes: ["2 4 0.6 2.4 0 1.3 0 0.8 0.7 0 1.7 0 2.4 0.8 2.4 1.5 1.7 2.3 0.6 2.3"] },
  "7": { wide: 2.4, strokes: ["0 4 2.4 4 0.8 0"] },
  "8": {
    wide: 2.4,
    strokes: [
      "0.7 2.1 0 1.4 0 0.7 0.7 0 1.7 0 2.4 0.7 2.4 1.4 1.7 2.1 0.7 2.1 0.1 2.7 0.1 3.4 0.7 4 1.7 4 2.3 3.4 2.3 2.7 1.7 2.1",
    ],
  },
  "9": { wide: 2.4, strokes: ["1.8 1.7 0.7 1.7 0 2.5 0 3.2 0.7 4 1.7 4 2.4 3.2 2.4 2.7 1.8 1.6 0.4 0"] },
  ".": { wide: 0.4, strokes: ["0.2 0 0.2 0.5"] },
  ",": { wide: 0.5, strokes: ["0.5 0.5 0.1 -0.6"] },
  "-": { wide: 1.6, strokes: ["0 2 1.6 2"] },
  "+": { wide: 2, strokes: ["0 2 2 2", "1 3 1 1"] },
  "!": { wide: 0.4, strokes: ["0.2 4 0.2 1.3", "0.2 0.5 0.2 0"] },
  "?": { wide: 2.2, strokes: ["0 3.2 0.6 4 1.6 4 2.2 3.3 2.2 2.7 1.1 1.9 1.1 1.3", "1.1 0.5 1.1 0"] },
  "/": { wide: 2, strokes: ["0 0 2 4"] },
  " ": { wide: 1.4, strokes: [] },
};

const UNITS_HIGH = 4;
const BETWEEN = 1.1;

type Strokes = { x: number; y: number }[][];

const trails = new Map<string, Strokes>(
  Object.entries(drawn).map(([sign, { strokes }]) => [
    sign,
    strokes.map((stroke) => {
      const figures = stroke.split(" ").map(Number);
      return Array.from({ length: figures.length / 2 }, (_, i) => ({ x: figures[2 * i], y: figures[2 * i + 1] }));
    }),
  ]),
);

/** Signs of a text that there are no strokes for, each once; small letters are laid as capitals. */
export const unknownLetters = (text: string): string =>
  [...new Set([...text.toUpperCase()].filter((sign) => !trails.has(sign)))].join(" ");

/** A text as strokes, mm, capitals `sizeMm` high, from 0, 0 at its lower left. */
export function strokesOf(text: string, sizeMm: number): Strokes {
  const perUnit = sizeMm / UNITS_HIGH;
  const found: Strokes = [];
  let left = 0;
  for (const sign of text.toUpperCase()) {
    for (const stroke of trails.get(sign) ?? [])
      found.push(stroke.map(({ x, y }) => ({ x: (left + x) * perUnit, y: y * perUnit })));
    left += (drawn[sign]?.wide ?? 0) + BETWEEN;
  }
  return found;
}
