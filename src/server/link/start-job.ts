/** Sends a trial's program or an opened file to a linked printer. */
import { files } from "../db/files";
import { trials } from "../db/trials";
import { addRunOfJob, noteBegun, PrintedByJob } from "../work/runs";
import { inputFor, withBands } from "../work/trials";

import type { JobSource } from "../tasks/catalogue";
import { runTask } from "../tasks/pool";
import { feedShareOf, hub, openLinkOf } from "./hub";
import { Job } from "./job";
import type { Link } from "./link";
import { isRefused, missing, Refused } from "../refused";

interface Wanted {
  name: string;
  source: "trial" | "file";
  sourceId: number;
  tool: number;
  program: JobSource;
}

/**
 * Builds or reads the program, then starts it; refused with findings' sentences, never half sent. It goes on whoever leaves meanwhile: the
 * link says how far it is, and what came of it.
 */
export async function startJob(printerId: number, from: { trialId: number } | { fileId: number }): Promise<Job> {
  const link = openLinkOf(printerId);
  if (link.job?.running)
    throw new Refused("conflict", `“${link.job.status().name}” is still running on ${link.printer.name}.`);
  if (link.preparing && link.preparing.failed === null)
    throw new Refused("conflict", `“${link.preparing.name}” is being made ready for ${link.printer.name}.`);
  const wanted = "trialId" in from ? trialSource(link, from.trialId) : fileSource(link, from.fileId);
  const { name, source, sourceId } = wanted;
  const stop = new AbortController();
  link.preparing = { name, source, sourceId, share: 0, failed: null, stop };
  link.changed();
  try {
    const started = await prepare(printerId, link, wanted, stop.signal);
    link.preparing = null;
    return started;
  } catch (error) {
    const isGivenUp = stop.signal.aborted;
    const failed = isRefused(error) ? error.message : "Something went wrong inside Cuchara; the log says more.";
    link.preparing = isGivenUp ? null : { name, source, sourceId, share: 0, failed, stop };
    throw isGivenUp ? new Refused("conflict", `“${name}” was given up before anything was sent.`) : error;
  } finally {
    link.changed();
  }
}

async function prepare(printerId: number, link: Link, wanted: Wanted, signal: AbortSignal): Promise<Job> {
  const { program, ...about } = wanted;
  const read = await runTask("jobProgram", program, {
    signal,
    onProgress(share) {
      if (link.preparing) link.preparing.share = share;
      link.changed();
    },
  });
  if (!read.ok) throw new Refused("unreadable", read.message);
  const { facts, ...job } = read.value;
  const onPiece =
    "input" in program
      ? (piece: PrintedByJob) => void addRunOfJob(program.input, facts, piece, feedShareOf(printerId, about.tool))
      : undefined;
  const trial = "input" in program ? withBands(program.input.trial) : undefined;
  const started = link.begin(job, { ...about, trial }, onPiece);
  if ("input" in program) {
    const begun = { input: program.input, facts, feedShare: feedShareOf(printerId, about.tool) };
    // It prints already: what the disk does not take now is written later.
    hub().ledger.write(`begun ${started.id}`, () => noteBegun(started.id, begun));
  }
  return started;
}

function trialSource(link: Link, trialId: number): Wanted {
  const trial = trials.get(trialId);
  if (!trial) throw missing(`There is no trial ${trialId}.`);
  if (trial.printerId !== link.printer.id) {
    throw new Refused(
      "conflict",
      `“${trial.name}” was made for another printer. Copy it for ${link.printer.name} first.`,
      {
        field: "trialId",
      },
    );
  }
  return {
    name: trial.name,
    source: "trial",
    sourceId: trialId,
    tool: trial.tool,
    program: { input: inputFor(trial) },
  };
}

function fileSource(link: Link, fileId: number): Wanted {
  const file = files.get(fileId);
  if (!file) throw missing(`There is no file ${fileId}.`);
  const program = { fileId, sizeBytes: file.sizeBytes, resultId: file.editResultId, printer: link.printer };
  return { name: file.name, source: "file", sourceId: fileId, tool: 0, program };
}
