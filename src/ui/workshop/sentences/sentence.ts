/** An edit as a sentence with blanks: how it begins, and its blanks. */
import type { ReactNode } from "react";
import type { Edit } from "@/core/edits";
import type { ProgramReport } from "@/core/report/report";
import type { SavedPrinter } from "../../common/api";

export interface SentenceProps<T> {
  edit: T;
  report: ProgramReport;
  printer: SavedPrinter | null;
  onChange(edit: T): void;
}

export interface Sentence<K extends Edit["kind"]> {
  /** What shall change, on the button that begins it. */
  begin: string;
  /** As it is begun. */
  fresh(report: ProgramReport): Extract<Edit, { kind: K }>;
  blanks(props: SentenceProps<Extract<Edit, { kind: K }>>): ReactNode;
}
