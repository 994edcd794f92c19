/** All trial kinds, in the order of work. A new one is one file and one line here. */
import { acceleration } from "./acceleration";
import { bridging } from "./bridging";
import { cornering } from "./cornering";
import { extrusion } from "./extrusion";
import { fan } from "./fan";
import { flow } from "./flow";
import { TrialKind } from "./kind";
import { pressureAdvance } from "./pressure-advance";
import { retraction } from "./retraction";
import { retractionMatrix } from "./retraction-matrix";
import { speed } from "./speed";
import { temperature } from "./temperature";

export const trialKinds = {
  temperature,
  fan,
  retraction,
  "retraction-matrix": retractionMatrix,
  flow,
  speed,
  acceleration,
  cornering,
  "pressure-advance": pressureAdvance,
  bridging,
  extrusion,
} satisfies Record<string, TrialKind>;

export type TrialKindKey = keyof typeof trialKinds;

export const trialKindKeys = Object.keys(trialKinds) as [TrialKindKey, ...TrialKindKey[]];

/** The kind for a key; typed as the general contract. */
export function trialKindFor(key: TrialKindKey): TrialKind {
  return trialKinds[key];
}
