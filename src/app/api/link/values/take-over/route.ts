import { printerBody } from "@/server/http/link";
import { snapshots } from "@/server/db/firmware-values";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { takeOverReading } from "@/server/link/firmware";
import { Refused } from "@/server/refused";

/** Brings the printer's record on the shelf up to the last reading: `{record}`, what was changed. */
export const POST = handle(
  async (request) => {
    const { printerId } = await readBody(request, printerBody);
    const [last] = snapshots.list(printerId, 1);
    if (!last) throw new Refused("conflict", "Nothing was read of this printer yet. Read its values first.");
    return json({ record: takeOverReading(printerId, last) });
  },
  { who: "bench" },
);
