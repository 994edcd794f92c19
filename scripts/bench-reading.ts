/** Part of `npm run bench`: how long a verdict takes, and the drawing of a simulated piece. */
import { criterionKeys } from "../src/core/reading";
import type { Mark } from "../src/core/reading/criterion";
import { verdict } from "../src/core/reading/verdict";
import { printerSchema } from "../src/core/shelf/printer-schema";
import { spoolSchema } from "../src/core/shelf/spool-schema";
import { drawPiece } from "../src/core/simulator/piece/draw";
import { pieceOf } from "../src/core/simulator/piece/piece";
import { slicesOf } from "../src/core/trials/build";
import { firstRound } from "../src/core/trials/first-round";
import { toldOf, unitsOf } from "../src/core/trials/run";
import type { Trial } from "../src/core/trials/trial";
import { demoPrinters, demoSpools } from "../src/server/demo/scenario";

const ROUNDS = 9;
const row = (what: string, ms: number, aim: string) =>
  console.log(`${what.padEnd(58)} ${`${ms.toFixed(1)} ms`.padStart(26)}   ${aim}`);

function timed(act: () => unknown): number {
  const times = Array.from({ length: ROUNDS }, () => {
    const started = performance.now();
    act();
    return performance.now() - started;
  });
  return times.sort((a, b) => a - b)[ROUNDS >> 1];
}

const bands = Array.from({ length: 30 }, (_, i) => ({ band: i + 1, value: 190 + i * 2, counts: true }));
const keys = criterionKeys.slice(0, 8);
const readers = Array.from({ length: 5 }, (_, reader) => ({
  marks: bands.flatMap(({ band, value }) =>
    keys.map((criterion, i) => ({
      band,
      criterion,
      mark: Math.max(0, Math.min(4, Math.round(4 - ((value - 215) / 12) ** 2 + ((reader + i + band) % 3) - 1))) as Mark,
    })),
  ),
  measures: [],
}));
const guide = { rule: "best" as const, uses: keys.map((key) => ({ key, weight: 1 })) };
const ms = timed(() => verdict({ guide, setting: "nozzleTemperature", bands, readers, weights: { looks: 1.5 } }));
row("verdict of 30 bands × 8 criteria × 5 readers", ms, "aim ≤ 20 ms");

const printer = printerSchema.parse(demoPrinters[0]);
// Nine bands.
const spool = spoolSchema.parse({ ...demoSpools[0], labelMinC: 190, labelMaxC: 230 });
const heights = { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 };
const { plan, fixed } = firstRound("temperature", { printer, spool, kept: {}, options: {}, ...heights });
const about = { id: 1, kind: "temperature", name: "Bench", printerId: 1, spoolId: 1, tool: 0, options: {} } as const;
const trial: Trial = { ...about, ...heights, plan, fixed, createdAt: "", updatedAt: "" };
const run = { trial, printer, reachedMm: null, told: toldOf(trial, []), byHand: [] };
const slices = slicesOf({ trial, printer, spool });
const drawn = { units: unitsOf(run), slices, layerMm: 0.2, colourHex: spool.colourHex, reachedMm: null };
const draw = () => drawPiece({ ...drawn, piece: pieceOf(run, spool, 1), side: "front" });
row(`simulated piece of a ${plan.bands.length}-band tower, drawn`, timed(draw), "aim ≤ 100 ms");
