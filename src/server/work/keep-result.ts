/** Keeps what came of a tune: the measurement, values for the pair, and the printer's own figures, in one step. */
import type { TuneKey } from "@/core/measure";
import type { TuneResult } from "@/core/measure/result";
import { printerSchema } from "@/core/shelf/printer-schema";
import { database } from "../db/connection";
import { kept } from "../db/kept";
import { measurements } from "../db/measurements";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { missing, Refused } from "../refused";

/** The id of the measurement; refused, with nothing kept, if printer or spool are not on the shelf or a figure cannot be. */
export function keepResult(printerId: number, spoolId: number | null, tune: TuneKey, result: TuneResult): number {
  const printer = printers.get(printerId);
  if (!printer) throw missing(`There is no printer ${printerId}.`);
  if (spoolId !== null && !spools.get(spoolId)) throw missing(`There is no spool ${spoolId}.`);
  const figures = Object.entries(result.printer).filter(([, value]) => value !== undefined);
  const record = printerSchema.safeParse({ ...printer, ...Object.fromEntries(figures) });
  if (!record.success) throw new Refused("invalid", record.error.issues[0].message, { field: "printer" });
  return database().transaction(() => {
    const id = measurements.add(printerId, spoolId, tune, result);
    if (spoolId !== null)
      kept.addAll(result.settings, { printerId, spoolId, trialId: null, nozzleMm: printer.nozzleMm });
    if (figures.length > 0) printers.change(printerId, record.data);
    return id;
  })();
}
