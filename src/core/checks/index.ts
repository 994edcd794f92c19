/** All checks. A new one is one file and one line here. */
import { advanceTooFast } from "./advance-too-fast";
import { bandsAlike } from "./bands-alike";
import { beyondCeiling } from "./beyond-ceiling";
import { beyondFlow } from "./beyond-flow";
import { beyondLimits } from "./beyond-limits";
import { beyondPiece } from "./beyond-piece";
import { coldAtBottom } from "./cold-at-bottom";
import { coldExtrusion } from "./cold-extrusion";
import { drawnAlong } from "./drawn-along";
import { fanOverAir } from "./fan-over-air";
import { fanTooSlow } from "./fan-too-slow";
import { Finding, worstFirst } from "../findings/finding";
import { Check, CheckContext, ProgramCheck } from "./check";
import { fitted } from "./fitted";
import { firstLayersUnheard } from "./first-layers-unheard";
import { gearPassesCheck } from "./gear-passes";
import { headClearance } from "./head-clearance";
import { laysNothing } from "./lays-nothing";
import { layerTooHigh } from "./layer-too-high";
import { leftOn } from "./left-on";
import { nothingLaid } from "./nothing-laid";
import { notSayable } from "./not-sayable";
import { otherLanguage } from "./other-language";
import { outOfReachCheck } from "./out-of-reach";
import { outsideBed } from "./outside-bed";
import { outsideLabel } from "./outside-label";
import { spotsDiffer } from "./spots-differ";
import { proofDiffers } from "./proof-differs";
import { sharedAcceleration } from "./shared-acceleration";
import { startTemperature } from "./start-temperature";
import { toolCold } from "./tool-cold";
import { toolFan } from "./tool-fan";
import { toolOffset } from "./tool-offset";
import { toolUnused } from "./tool-unused";
import { toolsBeyond } from "./tools-beyond";
import { tooLowToSettle } from "./too-low-to-settle";
import { unreadableBands } from "./unreadable-bands";
import { waitsInside } from "./waits-inside";
import { unwaitedHeat } from "./unwaited-heat";
import { wrongTool } from "./wrong-tool";

/** What is looked at in every program: those that trials build, and opened files with all that was done to them. */
export const programChecks: ProgramCheck[] = [
  beyondLimits,
  outsideBed,
  headClearance,
  coldExtrusion,
  unwaitedHeat,
  drawnAlong,
  leftOn,
  waitsInside,
  toolCold,
  toolUnused,
  toolOffset,
  toolFan,
];

/** What is looked at in files on top: a program typed by hand need not print anything. */
export const fileChecks: ProgramCheck[] = [...programChecks, laysNothing, toolsBeyond, otherLanguage];

export const checks: Check[] = [
  wrongTool,
  nothingLaid,
  layerTooHigh,
  notSayable,
  proofDiffers,
  spotsDiffer,
  ...programChecks,
  startTemperature,
  firstLayersUnheard,
  coldAtBottom,
  outsideLabel,
  tooLowToSettle,
  bandsAlike,
  beyondPiece,
  unreadableBands,
  fanTooSlow,
  fanOverAir,
  beyondFlow,
  beyondCeiling,
  sharedAcceleration,
  outOfReachCheck,
  advanceTooFast,
  gearPassesCheck,
  fitted,
];

/** Runs all checks of a trial: what was found, worst first, and what can be said to be in order. */
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
  return { findings: worstFirst(findings), passed };
}
