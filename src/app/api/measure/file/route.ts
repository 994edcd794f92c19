import { tuneFor } from "@/core/measure";
import { tuneProgram } from "@/core/measure/program";
import { tuneAskSchema } from "@/core/measure/request-schema";
import { printerOfQuery } from "@/server/http/link";
import { tuneFrom } from "@/server/work/tunes";
import { attachment } from "@/server/http/download";
import { handle } from "@/server/http/respond";
import { Refused } from "@/server/refused";

function parsed(text: string | null, field: string): unknown {
  try {
    return JSON.parse(text ?? "{}");
  } catch {
    throw new Refused("invalid", `${field} is not JSON.`, { field });
  }
}

/** A tune as a program: ?printerId=…&tune=…&inputs={…}&values={…} */
export const GET = handle(
  (request) => {
    const printer = printerOfQuery(request);
    const query = new URL(request.url).searchParams;
    const ask = tuneAskSchema.safeParse({
      tune: query.get("tune"),
      inputs: parsed(query.get("inputs"), "inputs"),
      values: parsed(query.get("values"), "values"),
    });
    if (!ask.success)
      throw new Refused("invalid", ask.error.issues[0].message, { field: ask.error.issues[0].path.join(".") });
    const tune = tuneFor(ask.data.tune);
    if (!tune.asFile) throw new Refused("conflict", "This tune has nothing for a file to do.");
    const text = tuneProgram(tune, tuneFrom(ask.data, printer));
    return new Response(text, { headers: attachment(`${tune.title}, ${printer.name}.gcode`, Buffer.byteLength(text)) });
  },
  { who: "reader" },
);
