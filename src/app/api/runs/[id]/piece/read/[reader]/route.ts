import { readerOf } from "@/server/http/readers";
import { handle, json, pathId } from "@/server/http/respond";
import { readForReader, runOf } from "@/server/work/runs";

/** Reads a simulated piece for a reader: fills in what has no mark yet, with the noise of an eye. */
export const POST = handle(
  (_, params) => {
    const run = runOf(pathId(params, "run"));
    return json(readForReader(run, readerOf(params, run.id)));
  },
  { who: "marker" },
);
