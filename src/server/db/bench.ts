/** What lies on the bench: one printer and one spool, or the first of the shelf where nothing was chosen yet. */
import { database } from "./connection";
import { printers } from "./printers";
import { spools } from "./spools";

export interface Bench {
  printerId: number | null;
  spoolId: number | null;
}

export function readBench(): Bench {
  const row = database().prepare("SELECT printer_id, spool_id FROM bench WHERE id = 1").get() as {
    printer_id: number | null;
    spool_id: number | null;
  };
  const printerId = row.printer_id !== null && printers.get(row.printer_id) ? row.printer_id : printers.list()[0]?.id;
  const spoolId = row.spool_id !== null && spools.get(row.spool_id) ? row.spool_id : spools.list()[0]?.id;
  return { printerId: printerId ?? null, spoolId: spoolId ?? null };
}

export function writeBench(bench: Partial<Bench>): Bench {
  const next = { ...readBench(), ...bench };
  database().prepare("UPDATE bench SET printer_id = ?, spool_id = ? WHERE id = 1").run(next.printerId, next.spoolId);
  return readBench();
}
