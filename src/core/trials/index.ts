/** All trial kinds, in the order of work. A new one is one file and one line here. */
import { acceleration } from "./kinds/acceleration";
import { bridging } from "./kinds/bridging";
import { cornering } from "./kinds/cornering";
import { extrusion } from "./kinds/extrusion";
import { fan } from "./kinds/fan";
import { flow } from "./kinds/flow";
import { TrialKind } from "./kind";
import { matrix } from "./kinds/matrix";
import { pressureAdvance } from "./kinds/pressure-advance";
import { retraction } from "./kinds/retraction";
import { retractionMatrix } from "./kinds/retraction-matrix";
import { speed } from "./kinds/speed";
import { temperature } from "./kinds/temperature";

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
  matrix,
} satisfies Record<string, TrialKind>;

export type TrialKindKey = keyof typeof trialKinds;

export const trialKindKeys = Object.keys(trialKinds) as [TrialKindKey, ...TrialKindKey[]];

/** Kinds that a pair is asked about on its road; what a chosen one asks for is chosen with it. */
export const roadKindKeys: readonly TrialKindKey[] = trialKindKeys.filter((key) => !trialKindFor(key).isChosen);

/** The kind for a key; typed as the general contract. */
export function trialKindFor(key: TrialKindKey): TrialKind {
  return trialKinds[key];
}
