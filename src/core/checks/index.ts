/** All checks. A new one is one file and one line here. */
import { bandsAlike } from "./bands-alike";
import { beyondFlow } from "./beyond-flow";
import { beyondLimits } from "./beyond-limits";
import { beyondPiece } from "./beyond-piece";
import { coldAtBottom } from "./cold-at-bottom";
import { coldExtrusion } from "./cold-extrusion";
import { fanTooSlow } from "./fan-too-slow";
import { Check, CheckContext, Finding } from "./finding";
import { fitted } from "./fitted";
import { headClearance } from "./head-clearance";
import { leftOn } from "./left-on";
import { nothingLaid } from "./nothing-laid";
import { notSayable } from "./not-sayable";
import { outsideBed } from "./outside-bed";
import { outsideLabel } from "./outside-label";
import { spotsDiffer } from "./spots-differ";
import { proofDiffers } from "./proof-differs";
import { sharedAcceleration } from "./shared-acceleration";
import { startTemperature } from "./start-temperature";
import { tooLowToSettle } from "./too-low-to-settle";
import { unreadableBands } from "./unreadable-bands";
import { waitsInside } from "./waits-inside";
import { wrongTool } from "./wrong-tool";

export const checks: Check[] = [
  wrongTool,
  nothingLaid,
  notSayable,
  proofDiffers,
  spotsDiffer,
  beyondLimits,
  outsideBed,
  headClearance,
  coldExtrusion,
  startTemperature,
  leftOn,
  coldAtBottom,
  outsideLabel,
  tooLowToSettle,
  bandsAlike,
  waitsInside,
  beyondPiece,
  unreadableBands,
  fanTooSlow,
  beyondFlow,
  sharedAcceleration,
  fitted,
];

const weight = { stop: 0, warn: 1, note: 2 };

/** Runs all checks: what was found, worst first, and what can be said to be in order. */
export function runChecks(context: CheckContext): { findings: Finding[]; passed: string[] } {
  const findings: Finding[] = [];
  const passed: string[] = [];
  for (const check of checks) {
    const found = check.run(context);
    if (found.length > 0) findings.push(...found);
    else {
      const said = typeof check.passes === "function" ? check.passes(context) : check.passes;
      if (said) passed.push(said);
    }
  }
  findings.sort((a, b) => weight[a.severity] - weight[b.severity]);
  return { findings, passed };
}
