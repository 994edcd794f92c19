import { handle, json, pathId } from "@/server/http/respond";
import { ceilingOf } from "@/server/work/trials";

/** What the printer's firmware lets its axes have, by the last reading of its values; null if they were never read. */
export const GET = handle((_, params) => json(ceilingOf(pathId(params, "printer"))), { who: "reader" });
