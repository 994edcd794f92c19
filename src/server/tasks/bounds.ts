/** Tasks whose length is the caller's to say: formulas of a sheet, expressions over a file. They end after a while, with a sentence. */
import type { Edit } from "@/core/edits";

/** Longer than anybody waits, and many times what a large sheet or file needs. */
const LONGEST_MS = 20_000;
const seconds = LONGEST_MS / 1000;

export interface TaskBound {
  withinMs: number;
  sentence: string;
  field?: string;
}

const sheetBound: TaskBound = {
  withinMs: LONGEST_MS,
  sentence: `The sheet took longer than ${seconds} s to lay. Use fewer points, copies or fills, or shorter formulas.`,
};

const expressionBound: TaskBound = {
  withinMs: LONGEST_MS,
  sentence: `The expression took longer than ${seconds} s on this file. Write it simpler, or look for a text.`,
  field: "regexp",
};

/** What may be in the input of a task: a sheet, a trial whose piece is one, a job of such a trial, edits of a file. */
interface Asked {
  sheet?: unknown;
  trial?: { sheet?: unknown };
  run?: { trial?: { sheet?: unknown } };
  input?: { trial?: { sheet?: unknown } };
  edits?: readonly Edit[];
}

/** The bound of a task; undefined where its length follows from what is stored. */
export function boundOf(input: unknown): TaskBound | undefined {
  const { sheet, trial, run, input: inner, edits } = input as Asked;
  if (sheet ?? trial?.sheet ?? run?.trial?.sheet ?? inner?.trial?.sheet) return sheetBound;
  const isExpression = (edit: Edit) => !edit.off && edit.kind === "find" && edit.find.regexp !== undefined;
  return edits?.some(isExpression) ? expressionBound : undefined;
}
