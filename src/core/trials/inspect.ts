/** A built trial read back from its own text and looked at from all sides. */
import { runChecks } from "../checks";
import { Finding } from "../checks/finding";
import { ProgramTables, readProgram } from "../gcode/read";
import { plannedFromBands } from "../heightplan/planned";
import { LayerSettings } from "../heightplan/proof";
import { filamentMassG } from "../material/bead";
import { limitsFor } from "../motion/limits";
import { HeatProfile, heatProfile, ProgramReport, reportOf, settledShareOf } from "../report/report";
import { BuiltTrial, TrialInput } from "./build";

export interface InspectedTrial {
  tables: ProgramTables;
  report: ProgramReport;
  byLayer: LayerSettings;
  heat: HeatProfile;
  /** Share (0–1) of each band's height in which the nozzle is settled. */
  bandSettled: number[];
  filamentMm: number;
  massG: number;
  /** In the spool's currency; null where the spool has no price. */
  cost: number | null;
  findings: Finding[];
  passed: string[];
}

/** Reads the finished bytes back and runs every check on what they say. */
export function inspectTrial({ trial, printer, spool }: TrialInput, built: BuiltTrial): InspectedTrial {
  const tables = readProgram(built.bytes);
  const { report, byLayer, allChanges } = reportOf(tables, limitsFor(printer));
  const heat = heatProfile(
    report.layers,
    byLayer.nozzleTemperature,
    { riseCPerS: printer.heaterRiseCPerS, fallCPerS: printer.heaterFallCPerS, lagS: printer.heaterLagS },
    spool,
  );
  const heights = report.layers.map(({ heightMm }) => heightMm);
  const bandSettled = built.bands.map(({ firstLayer, lastLayer }) =>
    settledShareOf(heat, heights, firstLayer, lastLayer),
  );
  const filamentMm = report.filament.reduce((sum, { mm }) => sum + mm, 0);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  const { findings, passed } = runChecks({
    printer,
    spool,
    trial,
    bands: built.bands,
    planned: plannedFromBands(built.bands, report.layers.length),
    tables,
    report,
    byLayer,
    changes: allChanges,
    heat,
    refusals: built.refusals,
    unlabelled: built.shape.unlabelled,
  });
  const cost = spool.pricePerKg > 0 ? (massG / 1000) * spool.pricePerKg : null;
  return { tables, report, byLayer, heat, bandSettled, filamentMm, massG, cost, findings, passed };
}
