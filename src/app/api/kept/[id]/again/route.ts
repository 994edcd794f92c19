import { handle, json, pathId } from "@/server/http/respond";
import { putBack } from "@/server/work/values";

/** Keeps an earlier value once more; it counts from now on. */
export const POST = handle((_, params) => json(putBack(pathId(params, "kept value")), 201), { who: "bench" });
