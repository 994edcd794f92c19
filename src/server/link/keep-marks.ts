/** Turns what was changed by hand during a job into a plan that can be printed again. */
import { Edit } from "@/core/edits";
import { planWithMarks } from "@/core/heightplan/marks";
import { settingFor, SettingKey, SettingValues } from "@/core/settings";
import type { Trial } from "@/core/trials/trial";
import { files } from "../db/files";
import type { JobMark, JobRecord } from "@/core/link/state";
import { jobs } from "../db/jobs";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { trials } from "../db/trials";
import { changeEdits, storedEdits } from "../work/files";

import { copyOf } from "../work/trials";
import { Refused, missing } from "../refused";

/** A new trial with the marks in its plan, or the file's edits with one more. */
export async function keepMarks(jobId: number, signal: AbortSignal): Promise<{ trialId?: number; fileId?: number }> {
  const job = jobs.get(jobId);
  if (!job) throw missing(`There is no job ${jobId}.`);
  const marks = jobs.marks(jobId);
  if (marks.length === 0) throw new Refused("conflict", "Nothing was changed by hand in this job.");
  return job.source === "trial" ? keepAsTrial(job, marks) : keepAsEdit(job, marks, signal);
}

function keepAsTrial({ sourceId }: JobRecord, marks: JobMark[]): { trialId: number } {
  const trial = trials.get(sourceId);
  if (!trial) throw new Refused("conflict", "The trial of this job was removed. Restore it first.");
  const fields = copyOf(trial, { name: `${trial.name} (by hand)`.slice(0, 100) });
  const plan = planWithMarks(trial.plan, marks, { ...usualOf(trial, marks), ...trial.fixed });
  // What the bands set now is no longer held fixed.
  const nudged = new Set<string>(marks.map(({ setting }) => setting));
  const fixed = Object.fromEntries(Object.entries(trial.fixed).filter(([key]) => !nudged.has(key)));
  return { trialId: trials.add({ ...fields, plan, fixed }).id };
}

/** What was in force before the first mark of each setting, where the trial does not hold it fixed. */
function usualOf({ printerId, spoolId }: Trial, marks: JobMark[]): SettingValues {
  const printer = printers.get(printerId, true);
  if (!printer) return {};
  const spool = spools.get(spoolId, true);
  return Object.fromEntries(marks.map(({ setting }) => [setting, settingFor(setting).usual(printer, spool)]));
}

async function keepAsEdit({ sourceId }: JobRecord, marks: JobMark[], signal: AbortSignal): Promise<{ fileId: number }> {
  const file = files.get(sourceId);
  if (!file) throw new Refused("conflict", "The file of this job was removed. Restore it first.");
  const changes = marks.map(({ heightMm, setting, value }) => ({
    from: { heightMm },
    settings: { [setting]: value } as Partial<Record<SettingKey, number>>,
  }));
  const stack = storedEdits(file);
  const plan = stack.find((edit) => edit.kind === "height-plan");
  // A file has one plan: what was done by hand comes behind what was planned.
  const merged: Edit = { kind: "height-plan", changes: [...(plan?.changes ?? []), ...changes] };
  await changeEdits(file, [...stack.filter((edit) => edit !== plan), merged], signal);
  return { fileId: file.id };
}
