/** All measured tunes, in the order of work. A new one is one file and one line here. */
import { axisSteps } from "./axis-steps";
import { axisStepsFromParts } from "./axis-steps-from-parts";
import { bedCentre } from "./bed-centre";
import { extruderSteps } from "./extruder-steps";
import { firmwareRetraction } from "./firmware-retraction";
import { bedPid, nozzlePid } from "./heater-tune";
import { highestFlow } from "./highest-flow";
import { Tune } from "./tune";
import { wallFlow } from "./wall-flow";

export const tunes = {
  "extruder-steps": extruderSteps,
  "axis-steps": axisSteps,
  "axis-steps-from-parts": axisStepsFromParts,
  "nozzle-pid": nozzlePid,
  "bed-pid": bedPid,
  "bed-centre": bedCentre,
  "wall-flow": wallFlow,
  "highest-flow": highestFlow,
  "firmware-retraction": firmwareRetraction,
} satisfies Record<string, Tune>;

export type TuneKey = keyof typeof tunes;

export const tuneKeys = Object.keys(tunes) as [TuneKey, ...TuneKey[]];

export function tuneFor(key: TuneKey): Tune {
  return tunes[key];
}
