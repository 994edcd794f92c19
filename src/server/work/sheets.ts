/** What is done with sheets, whoever asks for it. */
import type { SheetInput } from "@/core/sheets/program";
import type { Sheet } from "@/core/sheets/sheet";
import { readBench } from "../db/bench";
import { printers } from "../db/printers";
import { sheets, StoredSheet } from "../db/sheets";
import { spools } from "../db/spools";
import { missing, Refused } from "../refused";

export function sheetOf(id: number): StoredSheet {
  const sheet = sheets.get(id);
  if (!sheet) throw missing(`There is no sheet ${id}.`);
  return sheet;
}

/** What a sheet is laid with: the printer and spool that are named, else those on the bench. */
export function sheetInput(
  sheet: Sheet,
  wanted: { printerId?: number; spoolId?: number },
): SheetInput & { printerId: number } {
  const bench = readBench();
  const [printerId, spoolId] = [wanted.printerId ?? bench.printerId, wanted.spoolId ?? bench.spoolId];
  const printer = printerId === null ? null : printers.get(printerId);
  const spool = spoolId === null ? null : spools.get(spoolId);
  if (!printer)
    throw new Refused("invalid", "Say on which printer: there is none of that number.", { field: "printerId" });
  if (!spool) throw new Refused("invalid", "Say with which spool: there is none of that number.", { field: "spoolId" });
  return { sheet, printer, spool, printerId: printer.id };
}
