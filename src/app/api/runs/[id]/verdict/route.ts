import { handle, json, pathId } from "@/server/http/respond";
import { weightsIn } from "@/server/http/weights";
import { runOf, storedVerdict } from "@/server/work/runs";

/** What all readings say together: ?weights={"looks":1,"strength":2} */
export const GET = handle(
  async (request, params) => json(await storedVerdict(runOf(pathId(params, "run")), weightsIn(request))),
  { who: "reader" },
);
