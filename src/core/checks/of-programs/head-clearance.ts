import { ProgramReport } from "../../report/report";
import { Printer } from "../../shelf/printer";
import { plainNumber } from "../../units";
import { Finding, Severity } from "../../findings/finding";
import { ProgramCheck } from "../check";

/** What strikes, in words; for built trials and opened files alike. */
function clearanceFindings(
  { strike, steep, clearanceGaveUp }: ProgramReport,
  printer: Printer,
  severity: Severity,
): Finding[] {
  const findings: Finding[] = [];
  const open = { label: "Look at the printer's head", open: "printer" as const };
  if (strike) {
    const { x, y, zMm, line, layer, materialMm, besideMm, part } = strike;
    const place = layer >= 0 ? `layer ${layer + 1} at ${plainNumber(zMm, 2)} mm, line ${line}` : `line ${line}`;
    const what = part === "head" ? `The head of ${printer.name}` : "The nozzle";
    const where = besideMm < 1.5 ? "right there" : `${plainNumber(besideMm, 0)} mm beside it`;
    findings.push({
      check: "head-clearance",
      severity,
      where: place,
      message: `${what} would strike the piece: at X${plainNumber(x, 1)} Y${plainNumber(y, 1)} Z${plainNumber(strike.z, 2)} material already stands ${plainNumber(materialMm, 1)} mm high ${where}. Put the pieces further apart, or print them layer by layer together.`,
      mend: open,
    });
  }
  if (steep) {
    findings.push({
      check: "head-clearance",
      severity,
      where: `line ${steep.line}`,
      message: `A line is laid at ${plainNumber(steep.degrees, 0)}°, steeper than the nozzle's cone (${plainNumber(printer.nozzleConeDegrees, 0)}°): the nozzle's flank would rub on it.`,
      mend: open,
    });
  }
  if (clearanceGaveUp) {
    findings.push({
      check: "head-clearance",
      severity: "warn",
      where: "the whole program",
      message: "The collision check stopped early: too many long moves pass below parts that are already printed.",
    });
  }
  return findings;
}

/** Moves in which nozzle or head would strike what is already printed. */
export const headClearance: ProgramCheck = {
  key: "head-clearance",
  passes: "Nozzle and head clear everything that is printed.",
  // What a file of somebody else's would strike depends on a head that is measured roughly: it warns.
  run: ({ report, printer, trial }) => clearanceFindings(report, printer, trial ? "stop" : "warn"),
};
