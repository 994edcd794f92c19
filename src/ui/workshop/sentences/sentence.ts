/** An edit as a sentence with blanks: how it begins, its blanks, and what stands over its column. */
import type { ReactNode } from "react";
import type { Edit } from "@/core/edits";
import type { ProgramReport } from "@/core/report/report";
import type { SavedPrinter } from "../../common/api";

export interface SentenceProps<T> {
  edit: T;
  report: ProgramReport;
  printer: SavedPrinter | null;
  /** The file it lies over, its place in the stack (from 0), and the version of the stack the server answered last. */
  fileId: number;
  fileName: string;
  index: number;
  version: number;
  onChange(edit: T): void;
}

export interface Sentence<K extends Edit["kind"]> {
  /** What shall change, on the button that begins it. */
  begin: string;
  /** Other words people say for it, for finding it by typing. */
  words: string;
  /** As it is begun. */
  fresh(report: ProgramReport): Extract<Edit, { kind: K }>;
  /** What stands over its column, in a word or two. */
  short(edit: Extract<Edit, { kind: K }>): string;
  blanks(props: SentenceProps<Extract<Edit, { kind: K }>>): ReactNode;
}
