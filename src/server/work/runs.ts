/** What is done with printed pieces, whoever asks for it. */
import { criterionFor } from "@/core/reading";
import type { Verdict } from "@/core/reading/verdict";
import type { SettingKey } from "@/core/settings";
import { weightOf, Weights } from "@/core/reading/score";
import { spoolTitle } from "@/core/shelf/spool-title";
import type { TrialKindKey } from "@/core/trials";
import { inAnotherKind } from "@/core/trials/in-another-kind";
import { valuesOf } from "@/core/trials/next-round";
import type { ForeseenRound, PlacedRound } from "@/core/trials/placed-round";
import type { Result } from "@/core/result";
import { roundTo } from "@/core/units";
import { planOnPiece } from "@/core/trials/plan-on-piece";
import { bandValues } from "@/core/trials/sheet-piece";
import { guideOf, Run, soughtKey, toldOf, unitsOf } from "@/core/trials/run";
import type { Trial, TrialInput } from "@/core/trials/trial";
import { pieceOf } from "@/core/simulator/piece/piece";
import type { Side } from "@/core/reading/photo";
import type { PiecePicture } from "@/core/simulator/piece/draw";
import { readPiece } from "@/core/simulator/piece/eye";
import type { Spool } from "@/core/shelf/spool";
import { jobs } from "../db/jobs";
import { begunRuns, Reading, readings, runs, StoredPiece } from "../db/runs";
import { photos } from "../db/photos";
import { StoredTrial, trials } from "../db/trials";
import { log } from "../log";
import { Refused, missing } from "../refused";
import type { RunFacts } from "../tasks/catalogue";
import { runTask } from "../tasks/pool";
import { remembered } from "./remembered";
import { inputFor } from "./trials";

/** What a job tells of the piece it printed. */
export interface PrintedByJob {
  jobId: number;
  reachedMm: number | null;
  samples: readonly { heightMm: number; nozzleC: number }[];
  byHand: Run["byHand"];
}

/**
 * A piece that came from a card, printed as the trial stands now.
 *
 * @param feedShare what the printer's extruder really feeds, if it is a simulated one; null if it is really there
 */
export async function addRun(
  trial: Trial,
  about: { printedAt?: string; note?: string },
  feedShare: number | null,
  signal: AbortSignal,
): Promise<Run> {
  const input = inputFor(trial);
  return addRunOfCard(input, await runTask("runFacts", input, { signal }), about, feedShare);
}

/** As `addRun`, where the facts of its program are known. */
export function addRunOfCard(
  input: TrialInput,
  facts: RunFacts,
  about: { printedAt?: string; note?: string },
  feedShare: number | null,
): Run {
  const run = {
    ...whatWasPrinted(input, facts),
    samples: [],
    way: "card" as const,
    jobId: null,
    reachedMm: null,
    byHand: [],
    note: about.note ?? "",
    printedAt: about.printedAt ?? new Date().toISOString(),
  };
  return runs.add(run, simulated(run, input.spool, feedShare));
}

function simulated(run: Parameters<typeof pieceOf>[0], spool: Spool, feedShare: number | null): StoredPiece | null {
  return feedShare === null ? null : { ...pieceOf(run, spool, feedShare), spool };
}

/** A piece that came from a job: the trial as it was when the job began. */
export function addRunOfJob(input: TrialInput, facts: RunFacts, job: PrintedByJob, feedShare: number | null): Run {
  const run = {
    ...whatWasPrinted(input, facts, job.samples),
    samples: thinned(job.samples),
    way: "link" as const,
    jobId: job.jobId,
    reachedMm: job.reachedMm,
    byHand: job.byHand,
    note: "",
    printedAt: new Date().toISOString(),
  };
  const added = runs.add(run, simulated(run, input.spool, feedShare));
  // Only now: a piece is never known nowhere.
  begunRuns.remove(job.jobId);
  return added;
}

/** As many samples as a screen can show of a piece. */
const MOST_SAMPLES = 600;

function thinned<T>(samples: readonly T[]): T[] {
  const every = Math.max(1, Math.ceil(samples.length / MOST_SAMPLES));
  return samples.filter((_, i) => i % every === 0);
}

/** What a job of a trial has begun with: enough to know its piece by, whatever becomes of this program. */
interface Begun {
  input: TrialInput;
  facts: RunFacts;
  feedShare: number | null;
}

export const noteBegun = (jobId: number, begun: Begun) => begunRuns.add(jobId, begun);

/** Pieces of jobs that were under way when the program ended: as high as they had come, nothing measured. One that cannot be read holds up none. */
export function addBegunRuns(): void {
  for (const { jobId, begun } of begunRuns.all()) {
    try {
      addBegunRun(jobId, begun as Begun);
    } catch (error) {
      log().error({ err: error, job: jobId }, "the piece of a job cannot be made out");
    }
    begunRuns.remove(jobId);
  }
}

function addBegunRun(jobId: number, { input, facts, feedShare }: Begun): void {
  const job = jobs.get(jobId);
  if (!job || job.heightMm <= 0 || runs.ofJob(jobId)) return;
  const byHand = jobs.marks(jobId).map(({ heightMm, setting, value }) => ({ heightMm, setting, value }));
  const { heightMm, state } = job;
  addRunOfJob(input, facts, { jobId, reachedMm: state === "done" ? null : heightMm, samples: [], byHand }, feedShare);
}

function whatWasPrinted({ trial, printer, spool }: TrialInput, facts: RunFacts, samples: PrintedByJob["samples"] = []) {
  const { id, kind, name, printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options } = trial;
  const { createdAt, updatedAt } = trial;
  return {
    trialId: id,
    trial: {
      id,
      kind,
      name,
      printerId,
      spoolId,
      layerHeightMm,
      firstLayerHeightMm,
      plan,
      fixed,
      tool,
      options,
      createdAt,
      updatedAt,
    },
    printer,
    spoolTitle: spoolTitle(spool),
    hash: facts.hash,
    told: toldOf(trial, facts.settledShares, samples),
  };
}

/** The run of a path's id; a 404 with a sentence if there is none. */
export function runOf(id: number): Run {
  const run = runs.get(id);
  if (!run) throw missing(`There is no run ${id}.`);
  return run;
}

/** A run as it is sent: its bands as they stand on the piece, what is asked of each, and what was read so far. */
export function sentRun(run: Run) {
  const guide = guideOf(run);
  return {
    ...run,
    rule: guide.rule,
    setting: soughtKey(run.trial, run.printer),
    bands: unitsOf(run),
    criteria: guide.uses.map((use) => {
      const { short, question, answers, aspect } = criterionFor(use.key);
      return { key: use.key, short, question, answers, aspect, weight: weightOf(use, {}), must: use.must ?? false };
    }),
    measure: guide.measure ?? null,
    readings: readings.ofRun(run.id),
    photos: photos.ofRun(run.id),
  };
}

export type SentRun = ReturnType<typeof sentRun>;

/** A chain of rounds asks for the same verdicts again and again. */
const MOST_VERDICTS = 100;
const verdicts = remembered<Verdict>(MOST_VERDICTS);

/** What all readings of a run say together: worked out in a worker, and kept as long as nothing is read anew. */
export function storedVerdict(run: Run, weights: Weights): Promise<Verdict> {
  const input = { run, readers: readings.ofRun(run.id), weights };
  return verdicts(input, () => runTask("verdict", input));
}

/**
 * The next round as a new trial, in another kind if one is named: from a field to a tower of one of its values, the other held fixed. Refused
 * with the reason when there is nothing finer to ask.
 */
export async function addNextRound(
  trial: StoredTrial,
  run: Run,
  options: { weights: Weights; kind?: TrialKindKey; setting?: SettingKey },
  signal: AbortSignal,
): Promise<StoredTrial> {
  const { weights, kind, setting } = options;
  if (run.trialId !== trial.id)
    throw new Refused("invalid", `Run ${run.id} is not one of this trial.`, { field: "runId" });
  const verdict = await storedVerdict(run, weights);
  const round = (trial.round ?? 1) + 1;
  const name = `${trial.name.replace(/ Round \d+$/, "")} Round ${round}`.slice(0, 100);
  if (kind !== undefined && kind !== trial.kind) {
    const next = inAnotherKind(inputFor(trial), run, verdict, kind, setting);
    if (!next.ok) throw new Refused("unreadable", next.message, { field: next.field ?? "kind" });
    return trials.add({
      ...next.value,
      name: `${next.value.name} Round ${round}`.slice(0, 100),
      round,
      from: trial.id,
    });
  }
  const placed = await placedFor(trial, run, weights, verdict);
  if (!placed.ok) throw new Refused("unreadable", placed.message, { field: placed.field });
  const fitted = await fittedTo({ ...inputFor(trial), trial: run.trial }, placed.value.plan, signal);
  const { id: _, createdAt: _c, updatedAt: _u, version: _v, ...fields } = trial;
  return trials.add({ ...fields, ...withoutIds(run.trial), plan: fitted, name, round, from: trial.id });
}

const MOST_PLACED = 100;
const placedRounds = remembered<Result<PlacedRound>>(MOST_PLACED);

/** The next round of a piece, worked out in a worker and kept as long as nothing is read anew. */
function placedFor(trial: StoredTrial, run: Run, weights: Weights, verdict: Verdict): Promise<Result<PlacedRound>> {
  const input = { run, readers: readings.ofRun(run.id), weights, verdict, spool: inputFor(trial).spool };
  return placedRounds(input, () => runTask("placeRound", input));
}

const foreseen = remembered<ForeseenRound>(MOST_PLACED);

/** Refused with the reason where there is nothing finer to ask. */
export async function foreseenRound(trial: StoredTrial, run: Run, weights: Weights): Promise<ForeseenRound> {
  const verdict = await storedVerdict(run, weights);
  const placed = await placedFor(trial, run, weights, verdict);
  if (!placed.ok) throw new Refused("unreadable", placed.message, { field: placed.field });
  const { plan, narrowsTo } = placed.value;
  const input = inputFor(trial);
  return foreseen({ input, plan, verdict }, async () => {
    // Others may wait for the same: whoever asked first does not end it.
    const fitted = await fittedTo({ ...input, trial: run.trial }, plan);
    const effort = await runTask("trialEffort", { ...input, trial: { ...run.trial, id: trial.id, plan: fitted } });
    const values = valuesOf({ ...run.trial, plan: fitted }, verdict.setting);
    return { values, width: roundTo((verdict.toValue ?? 0) - (verdict.fromValue ?? 0), 4), narrowsTo, ...effort };
  });
}

/** What a run's trial was printed with, for a trial of its own. */
function withoutIds({ layerHeightMm, firstLayerHeightMm, fixed, tool, options, sheet }: Trial) {
  return { layerHeightMm, firstLayerHeightMm, fixed, tool, options, sheet };
}

/** A plan on the piece of a run: one of one's own has a height that no plan changes. */
async function fittedTo(
  { trial, printer, spool }: TrialInput,
  plan: Trial["plan"],
  signal?: AbortSignal,
): Promise<Trial["plan"]> {
  const { sheet } = trial;
  if (!sheet || plan.sideBySide) return plan;
  const values = bandValues({ ...trial, plan }, printer);
  const tops = await runTask("sheetHeights", { sheet, printer, spool, values }, { signal });
  return tops.ok ? planOnPiece(plan, tops.value) : plan;
}

/** What a simulated printer made of a run; a 404 with a sentence for a piece that is really there. */
export function storedPiece(run: Run): StoredPiece {
  const piece = runs.piece(run.id);
  if (!piece)
    throw missing("This piece is really there: look at it. Only what a simulated printer made is known here.");
  return piece;
}

/** The piece of a simulated printer as it would look. */
export function drawnPiece(run: Run, side: Side, signal: AbortSignal): Promise<PiecePicture> {
  return runTask("drawPiece", { run, piece: storedPiece(run), side }, { signal });
}

/** Reads a simulated piece for somebody, with the noise of an eye: only what has no mark and no length yet. */
export function readForReader(run: Run, reader: string): Reading {
  const seed = run.id * 1009 + [...reader].reduce((sum, letter) => sum + letter.charCodeAt(0), 0);
  const seen = readPiece(storedPiece(run), guideOf(run).measure, seed);
  const before = readings.ofRun(run.id).find((one) => one.reader === reader);
  const counts = new Set(unitsOf(run).flatMap((unit) => (unit.counts ? [unit.band] : [])));
  return readings.give(run.id, reader, {
    marks: seen.marks.filter(
      ({ band, criterion }) =>
        counts.has(band) && !before?.marks.some((one) => one.band === band && one.criterion === criterion),
    ),
    measures: seen.measures.filter(
      ({ band, what }) => counts.has(band) && !before?.measures.some((one) => one.band === band && one.what === what),
    ),
  });
}
