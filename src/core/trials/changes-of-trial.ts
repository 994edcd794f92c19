/** A trial's plan for a file that somebody else sliced. */
import { bandEdgesMm } from "../heightplan/plan";
import type { Change } from "../heightplan/change";
import type { Trial } from "./trial";

/** The plan of a trial as changes by height. Values side by side have no place on another piece and are left out. */
export function changesOfTrial({ plan, tool }: Trial): Change[] {
  const edges = bandEdgesMm(plan);
  return plan.bands.map(({ settings, lines }, i) => ({
    from: { heightMm: edges[i] },
    settings,
    ...(tool > 0 ? { tool } : {}),
    ...(lines ? { lines } : {}),
    ...(i > 0 && plan.leadLayers ? { leadLayers: plan.leadLayers } : {}),
  }));
}
