import { planToCsv, planToJson } from "@/core/heightplan/exchange";
import { attachment } from "@/server/http/download";
import { handle } from "@/server/http/respond";
import { trialOf } from "@/server/http/trials";
import { Refused } from "@/server/refused";

const forms = {
  csv: { write: planToCsv, type: "text/csv; charset=utf-8" },
  json: { write: planToJson, type: "application/json; charset=utf-8" },
};

export const GET = handle(
  (request, params) => {
    const trial = trialOf(params);
    const as = new URL(request.url).searchParams.get("as") ?? "csv";
    if (as !== "csv" && as !== "json")
      throw new Refused("invalid", "A plan is exported as csv or as json.", { field: "as" });
    const { write, type } = forms[as];
    const headers = { ...attachment(`${trial.name}.${as}`), "Content-Type": type };
    return new Response(write(trial.plan), { headers });
  },
  { who: "reader" },
);
