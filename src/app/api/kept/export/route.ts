import { sheetCsv, sheetRows, sheetText, startLinesOf } from "@/core/values/sheet";
import { kept } from "@/server/db/kept";
import { printers } from "@/server/db/printers";
import { spools } from "@/server/db/spools";
import { disposition } from "@/server/http/download";
import { handle, json, pairOf } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { exportBench } from "@/server/work/export-bench";
import { checkPair } from "@/server/work/trials";

const forms = ["text", "csv", "json", "lines"] as const;

/**
 * What is kept for a pair as a values sheet: ?printerId=1&spoolId=1&as=text, csv, json, or lines for the start of a print. Without a pair,
 * everything of the bench as one JSON that can be read back in.
 */
export const GET = handle(
  async (request) => {
    const { searchParams } = new URL(request.url);
    const as = searchParams.get("as") ?? "json";
    if (!(forms as readonly string[]).includes(as)) {
      throw new Refused("invalid", `Values are written out as ${forms.join(", ")}.`, { field: "as" });
    }
    if (!searchParams.has("printerId") && !searchParams.has("spoolId") && as === "json") {
      return file("application/json", "cuchara-bench.json", await exportBench(request.signal));
    }
    const { printerId, spoolId } = pairOf(request);
    checkPair(printerId, spoolId);
    const [printer, spool, values] = [printers.get(printerId)!, spools.get(spoolId)!, kept.list(printerId, spoolId)];
    const stem = `${spool.name} on ${printer.name}, values`;
    if (as === "json") return json(sheetRows(values));
    if (as === "csv") return file("text/csv; charset=utf-8", `${stem}.csv`, sheetCsv(values));
    if (as === "lines")
      return file("text/x.gcode; charset=utf-8", `${stem}.gcode`, startLinesOf(printer, spool, values));
    return file("text/plain; charset=utf-8", `${stem}.txt`, sheetText(printer, spool, values));
  },
  { who: "reader" },
);

function file(type: string, name: string, text: string): Response {
  return new Response(text, {
    headers: { "Content-Type": type, "Content-Disposition": disposition(name), "Cache-Control": "no-store" },
  });
}
