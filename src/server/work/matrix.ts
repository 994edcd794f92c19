/** A matrix of any two settings that is asked for with its values. */
import { firstRound } from "@/core/trials/first-round";
import { optionsOfKind } from "@/core/trials/options-of-kind";
import type { NewTrial } from "@/core/trials/trial";
import type { OfTwo } from "@/core/trials/trial-schema";
import { usualLayerMm } from "@/core/printing/process";
import { settingFor } from "@/core/settings";
import { checkWhole } from "@/core/settings/whole";
import { plainNumber } from "@/core/units";
import { Refused } from "../refused";
import { basisOf } from "./trials";

/** A new trial whose two settings and values became the matrix's options and plan; as it was where none are named. */
export function withTwo(wanted: NewTrial, { across, up }: OfTwo): NewTrial {
  if (!across && !up) return wanted;
  if (wanted.kind !== "matrix") {
    throw new Refused("invalid", "Only a matrix asks for two settings at once.", { field: across ? "across" : "up" });
  }
  if (!across || !up) {
    const missing = across ? "up" : "across";
    throw new Refused("invalid", `A matrix needs both settings: “${missing}” is missing.`, { field: missing });
  }
  const options = { ...wanted.options, across: across.setting, up: up.setting };
  const checked = optionsOfKind("matrix", options);
  if (!checked.ok) {
    throw new Refused("invalid", checked.message, { field: `${checked.field?.replace("options.", "")}.setting` });
  }
  for (const [side, { setting, values }] of Object.entries({ across, up })) {
    values.forEach((value, i) => refuseValue(`${side}.values.${i}`, setting, value));
  }
  const { printer, spool, kept } = basisOf(wanted, true);
  const usualMm = usualLayerMm(printer);
  const { layerHeightMm = usualMm, firstLayerHeightMm = usualMm } = wanted;
  const asked = { across: across.values, up: up.values };
  const round = firstRound("matrix", { printer, spool, kept, options, asked, layerHeightMm, firstLayerHeightMm });
  return { ...wanted, options, plan: wanted.plan ?? round.plan, fixed: wanted.fixed ?? round.fixed };
}

/** Refuses what no printer can be told, and what it would be told rounded. */
function refuseValue(field: string, setting: OfTwoSetting, value: number): void {
  const { label, lowest, highest, unit } = settingFor(setting);
  if (value < lowest || value > highest) {
    const range = `${plainNumber(lowest, 3)} to ${plainNumber(highest, 3)} ${unit}`.trim();
    throw new Refused("invalid", `${label} must be ${range}.`, { field });
  }
  const whole = checkWhole({ [setting]: value });
  if (!whole.ok) throw new Refused("invalid", whole.message, { field });
}

type OfTwoSetting = NonNullable<OfTwo["across"]>["setting"];
