import { trials } from "@/server/db/trials";
import { trialOf, withBands } from "@/server/http/trials";
import { handle, json } from "@/server/http/respond";

export const POST = handle((_, params) => {
  const trial = trialOf(params);
  return json(withBands(trials.add({ ...trial, name: `${trial.name} (copy)`.slice(0, 100) })), 201);
});
