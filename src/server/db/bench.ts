/** What lies on the bench: one printer and one spool, or the first of the shelf where nothing was chosen yet. */
import { tellChange } from "../changes";
import { database } from "./connection";
import { printers } from "./printers";
import { refuseStale } from "./rows";
import { spools } from "./spools";

export interface Bench {
  printerId: number | null;
  spoolId: number | null;
  version: number;
}

export function readBench(): Bench {
  const row = database().prepare("SELECT printer_id, spool_id, version FROM bench WHERE id = 1").get() as {
    printer_id: number | null;
    spool_id: number | null;
    version: number;
  };
  const printerId = row.printer_id !== null && printers.get(row.printer_id) ? row.printer_id : printers.list()[0]?.id;
  const spoolId = row.spool_id !== null && spools.get(row.spool_id) ? row.spool_id : spools.list()[0]?.id;
  return { printerId: printerId ?? null, spoolId: spoolId ?? null, version: row.version };
}

/** Puts something on the bench; refused if the bench is not the version `seen` any more. */
export function writeBench(bench: Partial<Pick<Bench, "printerId" | "spoolId">>, seen?: number): Bench {
  const before = readBench();
  refuseStale("bench", before, seen);
  const { printerId, spoolId } = { ...before, ...bench };
  database()
    .prepare("UPDATE bench SET printer_id = ?, spool_id = ?, version = version + 1 WHERE id = 1")
    .run(printerId, spoolId);
  tellChange("bench", 1);
  return readBench();
}
