/** What a sheet's own check may look at. */
import type { Finding } from "../../findings/finding";
import type { ProgramTables } from "../../gcode/read";
import type { ProgramReport } from "../../report/report";
import type { Printer } from "../../shelf/printer";
import type { Spool } from "../../shelf/spool";
import type { LaidSheet } from "../lay-sheet";
import { sayRow } from "../rows";
import type { Sheet } from "../sheet";

export interface SheetContext {
  sheet: Sheet;
  laid: LaidSheet;
  /** The program, read back from its own text. */
  tables: ProgramTables;
  report: ProgramReport;
  printer: Printer;
  spool: Spool;
}

export interface SheetCheck {
  key: string;
  /** What can be said where nothing is found. */
  passes: string | null;
  run(context: SheetContext): Finding[];
}

/** A row's name for people, by its field: `items.0.items.1` is row 1.2. */
export const rowName = (field: string): string =>
  sayRow(
    field
      .split(".")
      .filter((part) => /^\d+$/.test(part))
      .map(Number),
  );
