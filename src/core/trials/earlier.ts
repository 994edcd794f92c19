/** A trial whose nozzle is told its temperatures earlier. */
import { trialKindFor } from ".";
import type { TrialParts } from "../findings/finding";
import type { Trial } from "./trial";

/** What must change so that the nozzle is told `layers` layers before a band (or before what is read of it) begins. */
export function tellEarlier(trial: Trial, layers: number): Partial<TrialParts> {
  const { early } = trialKindFor(trial.kind);
  return early ? early.tell(trial, layers) : { plan: { ...trial.plan, leadLayers: layers } };
}

/** The trial with that change made. */
export function withLead(trial: Trial, layers: number): Trial {
  return { ...trial, ...tellEarlier(trial, layers) };
}

/** How many layers earlier the nozzle is told now. */
export function leadOf({ kind, plan, options }: Trial): number {
  return trialKindFor(kind).early?.now(options) ?? plan.leadLayers ?? 0;
}
