/** What pages are given along with their first view, so that they need not ask for it. The same answers as the interface's. */
import { BenchRow, benchRows } from "@/core/trials/bench-row";
import { RoadStep, roadOf } from "@/core/road/road";
import { briefOf, BriefTrial } from "@/core/trials/brief";
import type { Around } from "@/core/trials/stale";
import { readBench } from "../db/bench";
import { bin } from "../db/bin";
import { files } from "../db/files";
import { snapshots, valueChanges } from "../db/firmware-values";
import { jobs } from "../db/jobs";
import { askedAnew, kept } from "../db/kept";
import { readPreferences } from "../db/preferences";
import { measurements } from "../db/measurements";
import { printers } from "../db/printers";
import { sheets } from "../db/sheets";
import { spools } from "../db/spools";
import { progressOfAll } from "../db/progress";
import { trials } from "../db/trials";
import { hub } from "../link/hub";
import { log } from "../log";
export { builtFonts } from "./built-fonts";
import { RANK_HEADER, rankIn } from "../who";
import { expectedFor, rangesFor } from "./expected";
import { currentEdits, reportFor } from "./files";
import { firstPiecesFor } from "./first-pieces";
import { knownOnBench } from "./known";
import { writtenProgram } from "./programs";
import { sheetOf } from "./sheets";
import { viewAhead } from "./trial-views";
import { ceilingOf, checkPair, withBands } from "./trials";

/** So many trials come along with a list; the page asks for the rest. */
export const FIRST_TRIALS = 60;
/** A gallery waits no longer than this for its pieces. */
const PIECES_WAIT_MS = 300;
/** A report that is larger comes when the page asks for it. */
const LARGEST_GIVEN_BYTES = 600_000;

/** All trials in brief, newest first; the first `most` of them if that is given. */
export function briefTrials(most?: number): BriefTrial[] {
  const known = new Map(printers.list().map((printer) => [printer.id, printer]));
  const progress = progressOfAll();
  return trials.list(most).map((trial) => briefOf(trial, known.get(trial.printerId) ?? null, progress.get(trial.id)));
}

/** Whether a page goes to somebody who has not been let in: it carries nothing then. */
export const isForStranger = (asked: Headers) => rankIn(asked.get(RANK_HEADER)) === "stranger";

/** What stands on every page. */
export function benchData() {
  return {
    printers: printers.list(),
    spools: spools.list(),
    bench: readBench(),
    links: [...hub().links.values()].map((link) => link.status()),
  };
}

/** What lies on the bench, what it says of each question, and what was measured. */
export function benchPage() {
  const { printerId, spoolId } = readBench();
  return {
    printerId: printerId ?? 0,
    spoolId: spoolId ?? 0,
    trials: briefTrials(FIRST_TRIALS),
    isDemo: readPreferences().isDemo,
    road: printerId && spoolId ? roadFor(printerId, spoolId) : null,
  };
}

/** What the gallery of questions shows of the pair on the bench; without the pieces where they are not built soon enough. */
export async function galleryPage(printerId: number, spoolId: number) {
  const pieces = Promise.resolve(firstPiecesFor(printerId, spoolId)).catch(() => null);
  return { road: roadFor(printerId, spoolId), pieces: await soon(pieces, PIECES_WAIT_MS) };
}

/** The answer, or null if it takes longer than that. */
function soon<T>(answer: Promise<T>, waitMs: number): Promise<T | null> {
  return Promise.race([answer, new Promise<null>((resolve) => setTimeout(() => resolve(null), waitMs).unref())]);
}

/** A trial, what is kept for its pair, and its view with what that holds for; null if there is none. */
export async function trialPage(id: number) {
  const trial = trials.get(id);
  if (!trial) return null;
  const view = await viewAhead(trial);
  const ofPair = kept.list(trial.printerId, trial.spoolId);
  const expected = rangesFor(trial.printerId, trial.spoolId);
  return { trial: withBands(trial), kept: ofPair, expected, ceiling: ceilingOf(trial.printerId), view };
}

/** What was measured on the printer on the bench, what is kept for the pair, and the printer's firmware values. */
export function measurePage() {
  const bench = readBench();
  const [printerId, spoolId] = [bench.printerId ?? 0, bench.spoolId ?? 0];
  return {
    printerId,
    spoolId,
    kept: kept.list(printerId, spoolId),
    measured: measurements.list(printerId),
    firmware: { snapshots: snapshots.list(printerId), changes: valueChanges.list(printerId) },
  };
}

/** A page that could not be given its data comes without, and says itself what is wrong when it asks. */
export function noteNoData(error: unknown): void {
  log().warn({ err: error }, "a page comes without data");
}

/** What the bench says of each question for a pair; refused if one of the two is not on the shelf. */
export function rowsFor(printerId: number, spoolId: number): BenchRow[] {
  checkPair(printerId, spoolId);
  const job = hub().links.get(printerId)?.job;
  const isPrinting = job?.running && job.status().source === "trial";
  return benchRows({
    ...around(printerId, spoolId),
    printer: printers.get(printerId)!,
    spool: spools.get(spoolId)!,
    trials: briefTrials(),
    printing: isPrinting ? job.status().sourceId : null,
    expected: expectedFor(printerId, spoolId),
  });
}

/** What kept values of a pair are held against. */
function around(printerId: number, spoolId: number): Around {
  // The newest come first, and the newest of each tune counts.
  const measured = [...measurements.list(printerId)].reverse();
  return {
    printer: printers.get(printerId)!,
    kept: kept.list(printerId, spoolId),
    measuredAt: new Map(measured.map(({ tune, measuredAt }) => [tune, measuredAt])),
    readings: snapshots.list(printerId),
    askedAnewAt: askedAnew.at(printerId, spoolId),
    staleDays: readPreferences().staleDays,
    now: new Date().toISOString(),
  };
}

/** Everything that can be found out for a pair, in the order of work. */
export function roadFor(printerId: number, spoolId: number): RoadStep[] {
  return roadOf({
    rows: rowsFor(printerId, spoolId),
    measured: measurements.list(printerId),
    printer: printers.get(printerId)!,
    staleDays: readPreferences().staleDays,
    now: new Date().toISOString(),
  });
}

/** Opened files as lists show them. */
export function listedFiles() {
  return files.list().map(({ edits, ...file }) => ({ ...file, edits: JSON.parse(edits) as unknown[] }));
}

/** A file, its report, and what is laid over it; what is large is left out. */
export async function filePage(id: number) {
  const file = files.get(id);
  if (!file) return {};
  const never = new AbortController().signal;
  const text = await reportFor(file, never);
  const listed = { ...file, edits: JSON.parse(file.edits) as unknown[] };
  if (text.length > LARGEST_GIVEN_BYTES) return { file: listed };
  return { file: listed, report: JSON.parse(text) as unknown, edits: await currentEdits(file, never) };
}

export const sheetsPage = () => sheets.list();
export const sheetPage = (id: number) => sheetOf(id);
export const programPage = (id: number) => writtenProgram(id);

/** Everything that is kept, of every pair. */
export const keptPage = () => kept.all();

/** What this bench knows altogether. */
export const knownPage = () => knownOnBench();

/** What was removed and can be put back. */
export const binPage = () => bin.list();

/** All jobs in brief; those that ran when the program ended are said to have broken off first. */
export function jobsPage() {
  hub();
  return jobs.briefs();
}
