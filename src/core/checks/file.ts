/** What can be said of an opened file before anything is done to it. */
import { ProgramReport } from "../report/report";
import { settingFor } from "../settings";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { Finding } from "./finding";
import { clearanceFindings } from "./head-clearance";

/** Earlier plans left behind, temperature changes inside the print, limits and room. */
export function checkFile(report: ProgramReport, printer: Printer): Finding[] {
  const findings: Finding[] = [];
  if (report.cuchara.length > 0) {
    findings.push({
      check: "earlier-plan",
      severity: "warn",
      where: `line ${report.cuchara[0].line + 1}`,
      message: `An earlier plan is still in this file: ${report.cuchara.length === 1 ? "one line" : `${report.cuchara.length} lines`}, from “${report.cuchara[0].text.trim()}” on.`,
      mend: { label: "Lift them out", edit: { kind: "lift-out", what: "cuchara" } },
    });
  }
  for (const key of ["nozzleTemperature", "bedTemperature"] as const) {
    const foreign = report.changes.filter(
      (change) => change.key === key && !change.ours && (change.layer >= 1 || change.within),
    );
    if (foreign.length === 0) continue;
    const { short } = settingFor(key);
    const { value, line, layer } = foreign[0];
    findings.push({
      check: "foreign-change",
      severity: "note",
      where: `line ${line + 1}, layer ${layer + 1}`,
      message: `The file itself sets the ${short} to ${plainNumber(value, 0)} °C inside the print${foreign.length > 1 ? `, and ${foreign.length - 1} more times` : ""}.`,
      mend: { label: "Take that out", edit: { kind: "lift-out", what: "foreign", settings: [key] } },
    });
  }
  if (report.damagedLines > 0) {
    findings.push({
      check: "damaged-lines",
      severity: "warn",
      where: "whole file",
      message: `${report.damagedLines === 1 ? "One line does" : `${report.damagedLines} lines do`} not fit the checksum they carry: the file was damaged on its way. Slice or copy it again.`,
    });
  }
  const hottest = Math.max(
    0,
    ...report.changes.filter(({ key }) => key === "nozzleTemperature").map(({ value }) => value),
    report.settings.nozzleTemperature[0] ?? 0,
  );
  if (hottest > printer.highestNozzleC) {
    findings.push({
      check: "beyond-limits",
      severity: "warn",
      where: "whole file",
      message: `The file heats the nozzle to ${plainNumber(hottest, 0)} °C; ${printer.name} allows ${printer.highestNozzleC} °C.`,
    });
  }
  const top = report.layers.at(-1)?.zMm ?? 0;
  if (top > printer.buildHeightMm) {
    findings.push({
      check: "outside-bed",
      severity: "warn",
      where: "whole file",
      message: `The piece is ${plainNumber(top)} mm high; ${printer.name} reaches ${plainNumber(printer.buildHeightMm)} mm.`,
    });
  }
  findings.push(...clearanceFindings(report, printer, "warn"));
  return findings;
}
