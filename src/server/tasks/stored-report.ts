/** A file's report as it is stored: made for one printer's figures, and good as long as those are. */
import type { ProgramTables } from "@/core/gcode/tables";
import { readingOf } from "@/core/machine/reading";
import { limitsFor } from "@/core/motion/limits";
import { REPORT_VERSION, reportOf } from "@/core/report/report";
import { headOf, Printer } from "@/core/shelf/printer";
import type { FileSummary } from "@/server/db/files";

export interface StoredReport {
  /** JSON text. */
  report: string;
  summary: FileSummary;
}

/** How a stored report begins that still holds for a printer: anything else is made anew. */
export function reportStart(printer: Printer): string {
  const madeFor = JSON.stringify([limitsFor(printer), headOf(printer), readingOf(printer)]);
  return JSON.stringify({ version: REPORT_VERSION, madeFor }).slice(0, -1);
}

/** The report of a program that was read, for the printer. */
export function storedReport(tables: ProgramTables, printer: Printer): StoredReport {
  const { report } = reportOf(tables, limitsFor(printer), headOf(printer), {
    nozzleRiseCPerS: printer.heaterRiseCPerS,
    nozzleFallCPerS: printer.heaterFallCPerS,
  });
  const { version: _version, ...rest } = report;
  return {
    report: `${reportStart(printer)},${JSON.stringify(rest).slice(1)}`,
    summary: {
      layers: report.layers.length,
      topMm: report.layers.reduce((top, { zMm }) => Math.max(top, zMm), 0),
      seconds: report.seconds,
      filamentMm: report.filament.reduce((sum, { mm }) => sum + mm, 0),
      cucharaLines: report.cuchara.length,
    },
  };
}
