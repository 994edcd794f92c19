/** The weights in a request's query. */
import { weightsSchema } from "@/core/reading/reading-schema";
import type { Weights } from "@/core/reading/score";
import { Refused } from "../refused";
import { checked } from "./body";

/** `?weights={…}`; all alike where there are none, refused where they are not what weights are. */
export function weightsIn(request: Request): Weights {
  const text = new URL(request.url).searchParams.get("weights");
  if (text === null) return {};
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Refused("invalid", 'Weights are JSON, like {"looks":1,"strength":2}.', { field: "weights" });
  }
  return checked(value, weightsSchema);
}
