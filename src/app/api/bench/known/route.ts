import { knownCsv } from "@/core/values/known";
import { handle, json } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { knownOnBench } from "@/server/work/known";

/** What is kept of each setting for all pairs, what it differs by, what is out of line and what drifted: ?as=csv for the values as a table. */
export const GET = handle(
  async (request) => {
    const as = new URL(request.url).searchParams.get("as") ?? "json";
    const known = await knownOnBench();
    if (as === "json") return json(known);
    if (as !== "csv") throw new Refused("invalid", "Say json or csv: /api/bench/known?as=csv", { field: "as" });
    return new Response(knownCsv(known), {
      headers: {
        "Content-Type": "text/csv; charset=utf-8",
        "Content-Disposition": 'attachment; filename="what-this-bench-knows.csv"',
        "Cache-Control": "no-store",
      },
    });
  },
  { who: "reader" },
);
