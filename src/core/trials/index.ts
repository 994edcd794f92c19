/** All trial kinds, in the order of work. A new one is one file and one line here. */
import { TrialKind } from "./kind";
import { temperature } from "./temperature";

export const trialKinds = { temperature } satisfies Record<string, TrialKind>;

export type TrialKindKey = keyof typeof trialKinds;

export const trialKindKeys = Object.keys(trialKinds) as [TrialKindKey, ...TrialKindKey[]];

/** The kind for a key; typed as the general contract. */
export function trialKindFor(key: TrialKindKey): TrialKind {
  return trialKinds[key];
}
