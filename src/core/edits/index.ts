/** All edits. A new one is one file and one line here. */
import { z } from "zod";
import { Finding } from "../checks/finding";
import { PlannedValues } from "../heightplan/planned";
import { ProgramReport } from "../report/report";
import { Result, succeed } from "../result";
import { SettingKey } from "../settings";
import { Printer } from "../shelf/printer";
import { EditKind } from "./edit";
import { heightPlan, HeightPlanEdit } from "./height-plan";
import { liftOut, LiftOutEdit } from "./lift-out";
import { sortSplices, Splice } from "./splice";

const kinds = { "height-plan": heightPlan, "lift-out": liftOut };

export type Edit = HeightPlanEdit | LiftOutEdit;

export const editsSchema: z.ZodType<Edit[]> = z
  .array(
    z.unknown().transform((edit, context): Edit => {
      const kind = (edit as { kind?: unknown } | null)?.kind;
      if (typeof kind !== "string" || !Object.hasOwn(kinds, kind)) {
        context.addIssue({
          code: "custom",
          message: `An edit's kind is one of ${Object.keys(kinds).join(", ")}`,
          path: ["kind"],
        });
        return z.NEVER;
      }
      const parsed = kinds[kind as keyof typeof kinds].schema.safeParse(edit);
      if (!parsed.success) {
        for (const { message, path } of parsed.error.issues) context.addIssue({ code: "custom", message, path });
        return z.NEVER;
      }
      return parsed.data;
    }),
    { error: "Send a list of edits" },
  )
  .max(50, "At most 50 edits can be stacked");

export interface AppliedEdits {
  /** Sorted, ready for `Splicer`. */
  splices: Splice[];
  /** Per edit: its findings and how many lines it puts in or takes out. */
  edits: { kind: Edit["kind"]; changedLines: number }[];
  findings: Finding[];
  planned: PlannedValues;
}

/** Applies a stack of edits to a file, first to last; refused with field and reason if one cannot be done. */
export function applyEdits(edits: readonly Edit[], report: ProgramReport, printer: Printer): Result<AppliedEdits> {
  const removedLines = new Set<number>();
  const splices: Splice[] = [];
  const counts: AppliedEdits["edits"] = [];
  const findings: Finding[] = [];
  const planned: PlannedValues = {};
  for (const [index, edit] of edits.entries()) {
    const kind = kinds[edit.kind] as unknown as EditKind<Edit>;
    const outcome = kind.apply(edit, { report, printer, removedLines });
    if (!outcome.ok) return { ...outcome, field: `${index}.${outcome.field ?? ""}` };
    for (const splice of outcome.value.splices) if (splice.removeBytes > 0) removedLines.add(splice.line);
    splices.push(...outcome.value.splices);
    findings.push(...outcome.value.findings);
    for (const [key, values] of Object.entries(outcome.value.planned ?? {})) planned[key as SettingKey] = values;
    counts.push({
      kind: edit.kind,
      changedLines: outcome.value.splices.reduce(
        (sum, { insert, removeBytes }) => sum + (insert.match(/\n/g)?.length ?? 0) + (removeBytes > 0 ? 1 : 0),
        0,
      ),
    });
  }
  return succeed({ splices: sortSplices(splices), edits: counts, findings, planned });
}
