import { bin, BinTable, binTables } from "@/server/db/bin";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

/** Throws one thing in the bin away for good. */
export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "removed thing");
    const table = binTables.find((one) => one === params.table) as BinTable | undefined;
    if (!table || !bin.throwAway(table, id)) throw missing("That is not in the bin.");
    return json({ id });
  },
  { who: "bench" },
);
