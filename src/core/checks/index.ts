/** All checks. A new one is one file and one line here. */
import { advanceTooFast } from "./of-trials/advance-too-fast";
import { bandsAlike } from "./of-trials/bands-alike";
import { beyondCeiling } from "./of-trials/beyond-ceiling";
import { beyondFlow } from "./of-trials/beyond-flow";
import { beyondLimits } from "./of-programs/beyond-limits";
import { beyondPiece } from "./of-trials/beyond-piece";
import { coldAtBottom } from "./of-trials/cold-at-bottom";
import { coldExtrusion } from "./of-programs/cold-extrusion";
import { drawnAlong } from "./of-programs/drawn-along";
import { fanOverAir } from "./of-trials/fan-over-air";
import { fanTooSlow } from "./of-trials/fan-too-slow";
import { Finding, worstFirst } from "../findings/finding";
import { Check, CheckContext, ProgramCheck } from "./check";
import { fitted } from "./of-trials/fitted";
import { firstLayersUnheard } from "./of-trials/first-layers-unheard";
import { gearPassesCheck } from "./of-trials/gear-passes";
import { headClearance } from "./of-programs/head-clearance";
import { laysNothing } from "./of-programs/lays-nothing";
import { layerTooHigh } from "./of-trials/layer-too-high";
import { leftOn } from "./of-programs/left-on";
import { nothingLaid } from "./of-trials/nothing-laid";
import { notSayable } from "./of-trials/not-sayable";
import { otherLanguage } from "./of-programs/other-language";
import { outOfReachCheck } from "./of-trials/out-of-reach";
import { outsideBed } from "./of-programs/outside-bed";
import { outsideLabel } from "./of-trials/outside-label";
import { spotsDiffer } from "./of-trials/spots-differ";
import { proofDiffers } from "./of-trials/proof-differs";
import { sharedAcceleration } from "./of-trials/shared-acceleration";
import { startTemperature } from "./of-trials/start-temperature";
import { toolCold } from "./of-programs/tool-cold";
import { toolFan } from "./of-programs/tool-fan";
import { toolOffset } from "./of-programs/tool-offset";
import { toolUnused } from "./of-programs/tool-unused";
import { toolsBeyond } from "./of-programs/tools-beyond";
import { tooLowToSettle } from "./of-trials/too-low-to-settle";
import { unreadableBands } from "./of-trials/unreadable-bands";
import { waitsInside } from "./of-programs/waits-inside";
import { unwaitedHeat } from "./of-programs/unwaited-heat";
import { wrongTool } from "./of-trials/wrong-tool";

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
