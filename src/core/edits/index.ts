/** All edits. A new one is one file and one line here. */
import { z } from "zod";
import { Finding } from "../checks/finding";
import { ProgramReport } from "../report/report";
import { Result, succeed } from "../result";
import { Printer } from "../shelf/printer";
import { EditKind, FileRetractions, PlannedForTool } from "./edit";
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
  planned: PlannedForTool[];
}

/**
 * Applies a stack of edits to a file, first to last; refused with field and reason if one cannot be done. `retractions` are the file's
 * own, needed by edits inside moves.
 */
export function applyEdits(
  edits: readonly Edit[],
  report: ProgramReport,
  printer: Printer,
  retractions: FileRetractions | null = null,
): Result<AppliedEdits> {
  const removedLines = new Set<number>();
  const splices: Splice[] = [];
  const counts: AppliedEdits["edits"] = [];
  const findings: Finding[] = [];
  const planned: PlannedForTool[] = [];
  for (const [index, edit] of edits.entries()) {
    const kind = kinds[edit.kind] as unknown as EditKind<Edit>;
    const outcome = kind.apply(edit, { report, printer, removedLines, retractions });
    if (!outcome.ok) return { ...outcome, field: `${index}.${outcome.field ?? ""}` };
    for (const { removeBytes, insert, line } of outcome.value.splices) {
      if (removeBytes > 0 && insert === "") removedLines.add(line);
    }
    splices.push(...outcome.value.splices);
    findings.push(...outcome.value.findings);
    for (const wanted of outcome.value.planned ?? []) {
      const known = planned.find(({ tool }) => tool === wanted.tool);
      if (known) Object.assign(known.planned, wanted.planned);
      else planned.push(wanted);
    }
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
