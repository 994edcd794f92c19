/**
 * `npm run reliability`: many thousand pieces with hidden truths, whose shapes a reading does not know, and how often what it says of them
 * comes true. Prints the tables of docs/reading.md.
 *
 *   --pieces 2000   of each kind
 */
import { parseArgs } from "node:util";
import { pairsOf } from "../tests/unit/reading/hidden-surface";
import { hiddenKinds, hiddenPiece, reliabilityOf } from "../tests/unit/reading/hidden";

const { values } = parseArgs({ options: { pieces: { type: "string", default: "2000" } } });
const pieces = Number(values.pieces);
const percent = (part: number, whole: number) => (whole === 0 ? "–" : `${((100 * part) / whole).toFixed(1)} %`);

console.log("| kind | range holds it | said | keeps | wrong keeps | beyond the ends, said |");
console.log("| --- | --- | --- | --- | --- | --- |");
for (const kind of hiddenKinds) {
  const { held, said, ranges, keeps, wrongKeeps, beyond, beyondSaid } = reliabilityOf(kind, pieces);
  const cells = [
    percent(held, ranges),
    percent(said, ranges),
    keeps,
    percent(wrongKeeps, keeps),
    percent(beyondSaid, beyond),
  ];
  console.log(`| ${kind} | ${cells.join(" | ")} |`);
}

const { told, across, along, keeps, wrongKeeps, beyond, beyondSaid } = pairsOf(Math.ceil(pieces / 4));
const cells = [
  `${percent(across, told)} and ${percent(along, told)}`,
  "",
  keeps,
  percent(wrongKeeps, keeps),
  percent(beyondSaid, beyond),
];
console.log(`| two settings | ${cells.join(" | ")} |`);

console.log("\n| said that it lies beyond an end | pieces | came true |");
console.log("| --- | --- | --- |");
const TENTHS = [0, 0.05, 0.2, 0.4, 0.6, 0.8, 0.95, 1.001];
const bins = TENTHS.slice(1).map(() => ({ count: 0, true: 0 }));
for (const kind of hiddenKinds) {
  for (let seed = 1; seed <= pieces; seed++) {
    const { found, beyond } = hiddenPiece(kind, seed);
    if (found.value === null) continue;
    for (const [chance, towards] of [
      [found.chanceAbove, "higher"],
      [found.chanceBelow, "lower"],
    ] as const) {
      const bin = bins[TENTHS.findIndex((edge, i) => chance >= edge && chance < TENTHS[i + 1])];
      bin.count++;
      if (beyond === towards) bin.true++;
    }
  }
}
bins.forEach((bin, i) => {
  const edges = `${Math.round(TENTHS[i] * 100)} to ${Math.round(Math.min(1, TENTHS[i + 1]) * 100)} %`;
  console.log(`| ${edges} | ${bin.count} | ${percent(bin.true, bin.count)} |`);
});
