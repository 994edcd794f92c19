/**
 * Weeks of work on the demo's bench, made by the program itself: every trial is built, printed by a simulated printer, read by the eyes of
 * two readers, judged and kept by the same functions that serve the screens. No result is written by hand; only dates are set back.
 */
import sharp from "sharp";
import { tuneFor } from "@/core/measure";
import { actLines, heatLines } from "@/core/measure/program";
import { tuneRequest } from "@/core/measure/request";
import { resultOf, TuneResult } from "@/core/measure/result";
import type { Verdict } from "@/core/reading/verdict";
import type { TrialKindKey } from "@/core/trials";
import type { Run } from "@/core/trials/run";
import type { Trial } from "@/core/trials/trial";
import { newTrialSchema } from "@/core/trials/trial-schema";
import { SimulatedPrinter } from "@/core/simulator/machine";
import { personalities } from "@/core/simulator/personalities";
import { readRuler } from "@/core/simulator/ruler";
import { database } from "../db/connection";
import { kept } from "../db/kept";
import { measurements } from "../db/measurements";
import { printers, SavedPrinter } from "../db/printers";
import type { spools } from "../db/spools";
import { StoredTrial, trials } from "../db/trials";
import { isRefused } from "../refused";
import { runTask } from "../tasks/pool";
import { addPhoto } from "../work/photos";
import { addNextRound, addRunOfCard, drawnPiece, readForReader, storedVerdict } from "../work/runs";
import { firstTrial, inputFor } from "../work/trials";
import { foundWith } from "../work/values";

type SavedSpool = NonNullable<ReturnType<typeof spools.get>>;

/** A question is asked in so many rounds at most. */
const MOST_ROUNDS = 3;
const READERS = ["Ida", "Tom"];
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const never = new AbortController().signal;

interface Cast {
  printer: SavedPrinter;
  /** What its extruder really feeds of what it is asked for, until its steps are set. */
  feedShare: number;
  /** Everything is settled of this spool, */
  finished: SavedSpool;
  /** some of this one, with a piece of yesterday that waits to be read. */
  middle: SavedSpool;
}

/** Adds it all to the database in use. */
export async function tellStory({ printer, feedShare, finished, middle }: Cast): Promise<void> {
  const asBought = { printer, spool: finished, feedShare };
  // A first try with a wider nozzle, long before; what it found is stale since the nozzle was changed back.
  const usual = printer.nozzleMm;
  printers.change(printer.id, { ...printer, nozzleMm: 0.6 });
  await answer("speed", asBought, 41);
  printers.change(printer.id, { ...printers.get(printer.id)!, nozzleMm: usual });

  const onFinished = { ...asBought, feedShare: feedShare * measureExtruder(asBought, 36) };
  await answer("temperature", onFinished, 34, { rounds: 2, hasPhoto: true });
  await answer("fan", onFinished, 31);
  await answer("retraction-matrix", onFinished, 29);
  await answer("flow", onFinished, 26);
  await answer("acceleration", onFinished, 19);
  await answer("cornering", onFinished, 17);
  await answer("pressure-advance", onFinished, 14);

  const onMiddle = { ...onFinished, spool: middle };
  await answer("temperature", onMiddle, 8, { rounds: 2, hasPhoto: true });
  await answer("fan", onMiddle, 6);
  await answer("retraction-matrix", onMiddle, 4);
  await photograph(await printed(planned("flow", onMiddle), onMiddle, 1));
}

interface Pair extends Pick<Cast, "printer" | "feedShare"> {
  spool: SavedSpool;
}

/** Asks a question of a pair so many days ago, in so many rounds or more while the best lies beyond, and keeps what each has found. */
async function answer(
  kind: TrialKindKey,
  pair: Pair,
  daysAgo: number,
  { rounds = 1, hasPhoto = false }: { rounds?: number; hasPhoto?: boolean } = {},
): Promise<void> {
  let trial = planned(kind, pair);
  let found = await readBoth(trial, pair, daysAgo);
  if (hasPhoto) await photograph(found.run);
  keepFound(trial, found, daysAgo);
  for (let round = 1; round < MOST_ROUNDS && (round < rounds || isBeyond(found.verdict)); round++) {
    try {
      trial = await addNextRound(trial, found.run, { weights: {} }, never);
    } catch (error) {
      // Nothing finer can be asked: what was found stays kept.
      if (isRefused(error)) return;
      throw error;
    }
    found = await readBoth(trial, pair, daysAgo - round);
    keepFound(trial, found, daysAgo - round);
  }
}

/** Whether the best lies beyond what was tried. */
const isBeyond = ({ advice }: Verdict) => advice === "higher" || advice === "lower";

const planned = (kind: TrialKindKey, { printer, spool }: Pair): StoredTrial =>
  trials.add(firstTrial(newTrialSchema.parse({ kind, printerId: printer.id, spoolId: spool.id })));

/** A time of the day so many days ago. */
const at = (daysAgo: number, hour: number) =>
  new Date(Math.floor((Date.now() - daysAgo * DAY_MS) / DAY_MS) * DAY_MS + hour * HOUR_MS).toISOString();

async function printed(trial: StoredTrial, { feedShare }: Pair, daysAgo: number): Promise<Run> {
  setBack(trial, daysAgo);
  const input = inputFor(trials.get(trial.id)!);
  const facts = await runTask("runFacts", input);
  return addRunOfCard(input, facts, { printedAt: at(daysAgo, 19) }, feedShare);
}

async function readBoth(trial: StoredTrial, pair: Pair, daysAgo: number): Promise<{ run: Run; verdict: Verdict }> {
  const run = await printed(trial, pair, daysAgo);
  for (const reader of READERS) readForReader(run, reader);
  database().prepare("UPDATE readings SET read_at = ? WHERE run_id = ?").run(at(daysAgo, 20), run.id);
  return { run, verdict: await storedVerdict(run, {}) };
}

/** Keeps what a verdict says, as the step “keep” does; what says nothing yet is not kept. */
function keepFound(trial: Trial, { run, verdict }: { run: Run; verdict: Verdict }, daysAgo: number): void {
  const { setting, value, fromValue, toValue, along, advice } = verdict;
  if (value === null || advice === "mark-more") return;
  const { id: trialId, printerId, spoolId } = trial;
  const about = { printerId, spoolId, trialId, runId: run.id, keptAt: at(daysAgo, 21) };
  const values = { [setting]: value, ...(along && { [along.setting]: along.value }) };
  kept.addAll(values, { ...about, ...foundWith(printerId, about) }, { setting, fromValue, toValue });
}

/** The trial as if it had been made so many days ago. */
function setBack({ id }: Trial, daysAgo: number): void {
  database()
    .prepare("UPDATE trials SET created_at = ?, updated_at = ? WHERE id = ?")
    .run(at(daysAgo, 17), at(daysAgo, 18), id);
}

/** A photo of the front of a simulated piece. */
async function photograph(run: Run): Promise<void> {
  const { svg } = await drawnPiece(run, "front", never);
  const picture = await sharp(Buffer.from(svg), { density: 220 }).flatten({ background: "#d9d2c6" }).jpeg().toBuffer();
  await addPhoto(run, "front", picture);
}

/** The extruder's steps, measured on a simulated printer with the ruler, and kept; by how much more it feeds with them. */
function measureExtruder({ printer, spool }: Pair, daysAgo: number): number {
  const tune = tuneFor("extruder-steps");
  let answers = "";
  const machine = new SimulatedPrinter(printer, personalities[printer.dialect], (text) => (answers += text), {});
  const made = tuneRequest(
    { tune: "extruder-steps", inputs: {}, values: machine.memory.inForce },
    { printer, spool, kept: {} },
  );
  if (!made.ok) throw new Error(made.message);
  for (const line of [...heatLines(tune, made.value), ...actLines(tune, made.value)]) {
    answers = "";
    machine.receive(`${line}\n`);
    while (!/^ok/m.test(answers)) machine.advance(1);
  }
  while (!machine.idle) machine.advance(1);
  const outcome = tune.sum(made.value, tune.fromRuler!(readRuler(machine, 1), made.value));
  if (!outcome.ok) throw new Error(outcome.message);
  const result: TuneResult = resultOf(outcome.value, undefined, machine.memory.inForce);
  const id = measurements.add(printer.id, null, "extruder-steps", result);
  database().prepare("UPDATE measurements SET measured_at = ? WHERE id = ?").run(at(daysAgo, 18), id);
  return result.firmware.extruderSteps / machine.memory.inForce.extruderSteps;
}
