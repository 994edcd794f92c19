/** Sends a trial's program or an opened file to a linked printer. */
import { files } from "../db/files";
import { trials } from "../db/trials";
import { addRunOfJob, noteBegun, PrintedByJob } from "../work/runs";
import { inputFor } from "../work/trials";

import type { JobSource } from "../tasks/catalogue";
import { runTask } from "../tasks/pool";
import { feedShareOf, hub, openLinkOf } from "./hub";
import { Job } from "./job";
import type { Link } from "./link";
import { Refused, missing } from "../refused";

interface Wanted {
  name: string;
  source: "trial" | "file";
  sourceId: number;
  tool: number;
  program: JobSource;
}

/** Builds or reads the program, then starts it; refused with findings' sentences, never half sent. */
export async function startJob(
  printerId: number,
  from: { trialId: number } | { fileId: number },
  signal: AbortSignal,
): Promise<Job> {
  const link = openLinkOf(printerId);
  if (link.job?.running)
    throw new Refused("conflict", `“${link.job.status().name}” is still running on ${link.printer.name}.`);
  const { program, ...about } = "trialId" in from ? trialSource(link, from.trialId) : fileSource(link, from.fileId);
  const read = await runTask("jobProgram", program, { signal });
  if (!read.ok) throw new Refused("unreadable", read.message);
  const { facts, ...job } = read.value;
  const onPiece =
    "input" in program
      ? (piece: PrintedByJob) => void addRunOfJob(program.input, facts, piece, feedShareOf(printerId, about.tool))
      : undefined;
  const started = link.begin(job, about, onPiece);
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
  const program = { fileId, sizeBytes: file.sizeBytes, splices: files.splices(fileId), printer: link.printer };
  return { name: file.name, source: "file", sourceId: fileId, tool: 0, program };
}
