/** Times of reading a piece: a verdict on many bands, one of two settings, and the placing of a next round. */
import { verdict } from "../src/core/reading/verdict";
import { widthsAfter } from "../src/core/reading/foresee";
import type { Mark } from "../src/core/reading/criterion";
import type { ReadingGuide } from "../src/core/reading/guide";
import { criterionKeys } from "../src/core/reading";

const setting = "nozzleTemperature" as const;

/** Marks of so many readers on so many bands in so many respects: a hill, with the same noise in every run. */
function marked(bands: number, respects: number, readers: number, turn: number) {
  const keys = criterionKeys.slice(0, respects);
  let state = 7 + turn;
  const dice = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
  const all = Array.from({ length: bands }, (_, i) => ({ band: i + 1, value: 190 + i, counts: true }));
  const marksOf = () =>
    all.flatMap(({ band, value }) =>
      keys.map((criterion) => ({
        band,
        criterion,
        mark: Math.max(0, Math.min(4, Math.round(4 - ((value - 190 - bands / 2) / 8) ** 2 + dice() - 0.5))) as Mark,
      })),
    );
  const guide: ReadingGuide = { rule: "best", uses: keys.map((key) => ({ key, weight: 1 })) };
  return { guide, bands: all, marks: Array.from({ length: readers }, marksOf) };
}

/** Milliseconds by what was timed, with the aim. */
export async function readingTimes(
  timed: (work: () => unknown, rounds?: number) => Promise<number>,
): Promise<[name: string, ms: number, aim: string][]> {
  let turn = 0;
  const whole = await timed(() => {
    const { guide, bands, marks } = marked(30, 8, 5, turn++);
    verdict({ guide, setting, bands, readers: marks.map((own) => ({ marks: own, measures: [] })), weights: {} });
  });
  const placing = await timed(() => {
    const { guide, bands, marks } = marked(7, 5, 1, turn++);
    const values = bands.map(({ value }) => value);
    const rounds = [values, values.filter((_, i) => i % 2 === 0), values.slice(1, 6)];
    widthsAfter({ guide, setting, bands, readers: marks, weights: {} }, rounds);
  });
  const two = await timed(() => {
    const { guide, bands, marks } = marked(30, 5, 1, turn++);
    const cells = bands.map((cell, i) => ({ ...cell, value: 92 + 4 * (i % 5), along: 200 + 4 * Math.floor(i / 5) }));
    const readers = [{ marks: marks[0], measures: [] }];
    const field: ReadingGuide = { ...guide, rule: "surface" };
    verdict({ guide: field, setting: "flowFactor", along: setting, bands: cells, readers, weights: {} });
  });
  return [
    ["verdict, 30 bands × 8 criteria × 5 readers", whole, "aim ≤ 20 ms"],
    ["placing the next round, in a worker", placing, "aim ≤ 200 ms"],
    ["verdict of two settings, 30 cells × 5 criteria, in a worker", two, ""],
  ];
}
