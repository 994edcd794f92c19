/** The demo scenario's records, checked as the server would. */
import { Printer } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { Spool } from "@/core/shelf/spool";
import { spoolSchema } from "@/core/shelf/spool-schema";
import { TrialKindKey } from "@/core/trials";
import { firstRound } from "@/core/trials/first-round";
import { OptionValues } from "@/core/options/option";
import { Trial } from "@/core/trials/trial";
import { HeightPlan } from "@/core/heightplan/plan";
import { SpecimenRequest } from "@/core/specimens/specimen";
import { roomOn } from "@/core/trials/room";
import { demoPrinters, demoSpools } from "@/server/demo/scenario";

export const printers: Printer[] = demoPrinters.map((printer) => printerSchema.parse(printer));
export const spools: Spool[] = demoSpools.map((spool) => spoolSchema.parse(spool));
export const ladle = printers[0];
export const saffron = spools[0];

/** A trial of a kind, with its first round, as the server would store it. */
export function trialOfKind(
  kind: TrialKindKey,
  printer: Printer,
  spool: Spool,
  change: Partial<Trial> = {},
  options: OptionValues = {},
): Trial {
  const { layerHeightMm = 0.2, firstLayerHeightMm = 0.2 } = change;
  const heights = { layerHeightMm, firstLayerHeightMm };
  const { plan, fixed } = firstRound(kind, { printer, spool, kept: {}, options, ...heights });
  return {
    id: 1,
    kind,
    name: "A trial",
    printerId: 1,
    spoolId: 1,
    ...heights,
    plan,
    fixed,
    tool: 0,
    options,
    createdAt: "2026-03-01T10:00:00.000Z",
    updatedAt: "2026-03-01T10:00:00.000Z",
    ...change,
  };
}

/** A temperature trial with its first round. */
export function trialFor(printer: Printer, spool: Spool, change: Partial<Trial> = {}): Trial {
  return trialOfKind("temperature", printer, spool, change);
}

/** What a specimen is asked for, for a plan and its labels. */
export function specimenRequest(
  plan: HeightPlan,
  labels: string[],
  change: Partial<SpecimenRequest> = {},
): SpecimenRequest {
  return {
    plan,
    labels,
    options: {},
    layerHeightMm: 0.2,
    firstLayerHeightMm: 0.2,
    beadWidthMm: 0.45,
    room: roomOn(ladle),
    ...change,
  };
}

/** Bands of one height with these nozzle temperatures, bottom first. */
export function planOf(temperatures: number[], heightMm = 5, baseHeightMm = 1): HeightPlan {
  return {
    baseHeightMm,
    bands: temperatures.map((nozzleTemperature) => ({ heightMm, settings: { nozzleTemperature } })),
  };
}

/** A small trial: three low bands, quick to build. */
export function smallTrial(change: Partial<Trial> = {}): Trial {
  return trialFor(ladle, saffron, { plan: planOf([220, 210, 200]), ...change });
}
