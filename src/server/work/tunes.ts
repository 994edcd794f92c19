/** What the routes of measured tunes share. */
import { tuneRequest } from "@/core/measure/request";
import { TuneAsk } from "@/core/measure/request-schema";
import { TuneRequest } from "@/core/measure/tune";
import { readBench } from "../db/bench";
import { keptSettings } from "../db/kept";
import { SavedPrinter } from "../db/printers";
import { spools } from "../db/spools";
import { Refused } from "../refused";

/** The tune's request for a printer with the spool on the bench; a 400 with field and reason if it cannot be. */
export function tuneFrom(ask: TuneAsk, printer: SavedPrinter): TuneRequest {
  const { spoolId } = readBench();
  const spool = spoolId === null ? null : spools.get(spoolId);
  const kept = spoolId === null ? {} : keptSettings(printer.id, spoolId);
  const request = tuneRequest(ask, { printer, spool, kept });
  if (!request.ok) throw new Refused("invalid", request.message, { field: request.field });
  return request.value;
}
