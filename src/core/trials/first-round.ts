/** The first round of a kind, with the usual options where none are given. */
import { trialKindFor, TrialKindKey } from ".";
import { Round, RoundRequest } from "./kind";
import { optionsOf } from "../options/option";

/** Plan, fixed values and what the printer made smaller; `options` may be partial. */
export function firstRound(kindKey: TrialKindKey, request: RoundRequest): Round {
  const kind = trialKindFor(kindKey);
  return kind.firstRound({ ...request, options: optionsOf(kind.options, request.options, request.printer) });
}
