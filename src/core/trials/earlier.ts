/** A trial whose nozzle is told its temperatures earlier. */
import { trialKindFor } from ".";
import { TrialParts } from "./kind";
import type { Trial } from "./trial";

/** What must change so that the nozzle is told `layers` layers before a band (or before what is read of it) begins. */
export function tellEarlier(trial: Trial, layers: number): Partial<TrialParts> {
  const { earlier } = trialKindFor(trial.kind);
  return earlier ? earlier(trial, layers) : { plan: { ...trial.plan, leadLayers: layers } };
}

/** The trial with that change made. */
export function told(trial: Trial, layers: number): Trial {
  return { ...trial, ...tellEarlier(trial, layers) };
}

/** How many layers earlier the nozzle is told now. */
export function leadOf({ plan, options }: TrialParts): number {
  return typeof options.coolLayers === "number" ? options.coolLayers : (plan.leadLayers ?? 0);
}
