import { readingSchema } from "@/core/reading/reading-schema";
import { guideOf, unitsOf } from "@/core/trials/run";
import { readings } from "@/server/db/runs";
import { readBody } from "@/server/http/body";
import { readerOf } from "@/server/http/readers";
import { handle, json, pathId } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { runOf } from "@/server/work/runs";

/** Lays marks and measures over what this reader has said before; what is not named stays. */
export const PUT = handle(
  async (request, params) => {
    const given = await readBody(request, readingSchema);
    const run = runOf(pathId(params, "run"));
    const reader = readerOf(params, run.id);
    const bands = new Set(unitsOf(run).map(({ band }) => band));
    const used = new Set<string>(guideOf(run).uses.map(({ key }) => key));
    for (const [index, { band, criterion }] of (given.marks ?? []).entries()) {
      if (!bands.has(band))
        throw new Refused("invalid", `There is no band ${band} on this piece.`, { field: `marks.${index}.band` });
      if (!used.has(criterion)) {
        throw new Refused("invalid", `“${criterion}” is not asked of this piece; it is ${[...used].join(", ")}.`, {
          field: `marks.${index}.criterion`,
        });
      }
    }
    const { measure } = guideOf(run);
    for (const [index, { band, what }] of (given.measures ?? []).entries()) {
      if (what !== measure?.key) {
        throw new Refused(
          "invalid",
          measure ? `What is measured here is ${measure.key}.` : "Nothing is measured on this piece.",
          {
            field: `measures.${index}.what`,
          },
        );
      }
      if (!bands.has(band))
        throw new Refused("invalid", `There is no band ${band} on this piece.`, { field: `measures.${index}.band` });
    }
    return json(readings.give(run.id, reader, given));
  },
  { who: "marker" },
);
