/** The demo scenario's records, checked as the server would. */
import { Printer, printerSchema } from "@/core/shelf/printer";
import { Spool, spoolSchema } from "@/core/shelf/spool";
import { trialKinds } from "@/core/trials";
import { Trial } from "@/core/trials/trial";
import { HeightPlan } from "@/core/heightplan/plan";
import { demoPrinters, demoSpools } from "@/server/demo/scenario";

export const printers: Printer[] = demoPrinters.map((printer) => printerSchema.parse(printer));
export const spools: Spool[] = demoSpools.map((spool) => spoolSchema.parse(spool));
export const ladle = printers[0];
export const saffron = spools[0];

/** A temperature trial as the server would store it. */
export function trialFor(printer: Printer, spool: Spool, change: Partial<Trial> = {}): Trial {
  return {
    id: 1,
    kind: "temperature",
    name: "A trial",
    printerId: 1,
    spoolId: 1,
    layerHeightMm: 0.2,
    firstLayerHeightMm: 0.2,
    ...trialKinds.temperature.firstRound(printer, spool),
    createdAt: "2026-03-01T10:00:00.000Z",
    updatedAt: "2026-03-01T10:00:00.000Z",
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
