/** What can be said of an opened file, as it came or with all that was done to it. */
import { Finding, worstFirst, usualLiftOut } from "../findings/finding";
import { dialects } from "../machine/dialects";
import { ProgramReport } from "../report/report";
import { settingFor } from "../settings";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { fileChecks } from ".";

/**
 * The checks of every program, and what only a file of somebody else's can have: worst first.
 *
 * @param checks those of files that are to print, if nothing else is said
 *
 * @example
 * const { report } = reportOf(readProgram("G28\nM83\nG1 X9 Y9 Z0.2 E1 F900\n"), limitsFor(printer));
 * checkFile(report, printer)[0].check; // "cold-extrusion"
 */
export function checkFile(report: ProgramReport, printer: Printer, checks = fileChecks): Finding[] {
  const context = { report, printer, trial: null };
  return worstFirst([
    ...checks.flatMap((check) => check.run(context)),
    ...earlierPlan(report),
    ...ownTemperatures(report),
    ...damagedLines(report),
    ...assumptions(report, printer),
  ]);
}

function earlierPlan({ cuchara }: ProgramReport): Finding[] {
  if (cuchara.length === 0) return [];
  return [
    {
      check: "earlier-plan",
      severity: "warn",
      where: `line ${cuchara[0].line + 1}`,
      message: `An earlier plan is still in this file: ${cuchara.length === 1 ? "one line" : `${cuchara.length} lines`}, from “${cuchara[0].text.trim()}” on.`,
      mend: { label: "Lift them out", edit: { kind: "lift-out", what: "cuchara" } },
    },
  ];
}

/** Temperatures that the file itself sets inside the print, tool by tool. */
function ownTemperatures({ changes, filament }: ProgramReport): Finding[] {
  return usualLiftOut.flatMap((key) => {
    const { short, perTool } = settingFor(key);
    const own = changes.filter((change) => change.key === key && !change.ours && (change.layer >= 1 || change.within));
    const told = perTool && filament.length > 1 ? [...new Set(own.map(({ tool }) => tool))].sort() : [undefined];
    return told.flatMap((tool): Finding[] => {
      const ofTool = own.filter((change) => tool === undefined || change.tool === tool);
      if (ofTool.length === 0) return [];
      const { value, line, layer } = ofTool[0];
      const more = ofTool.length > 1 ? `, and ${ofTool.length - 1} more times` : "";
      return [
        {
          check: "foreign-change",
          severity: "note",
          where: `line ${line + 1}, layer ${layer + 1}`,
          message: `The file itself sets the ${short}${tool === undefined ? "" : ` of tool ${tool}`} to ${plainNumber(value, 0)} °C inside the print${more}.`,
          mend: {
            label: "Take that out",
            edit: {
              kind: "lift-out",
              what: "foreign",
              settings: [key],
              ...(tool === undefined ? {} : { tool }),
            },
          },
        },
      ];
    });
  });
}

function damagedLines({ damagedLines: count }: ProgramReport): Finding[] {
  if (count === 0) return [];
  return [
    {
      check: "damaged-lines",
      severity: "warn",
      where: "whole file",
      message: `${count === 1 ? "One line does" : `${count} lines do`} not fit the checksum they carry: the file was damaged on its way. Slice or copy it again.`,
    },
  ];
}

/** What had to be assumed where a program can be read in two ways. */
function assumptions({ assumedE, retractionUnsaid, byVolume }: ProgramReport, printer: Printer): Finding[] {
  const findings: Finding[] = [];
  if (byVolume !== null) {
    findings.push({
      check: "by-volume",
      severity: "note",
      where: `line ${byVolume}`,
      message:
        "From here on, the file gives extrusion as volume (M200). It is read that way, but edits that write their own extrusion can't be used.",
    });
  }
  if (assumedE) {
    const counts = assumedE.relative ? "as relative (as M83 said)" : "as absolute (as G90 means on some printers)";
    const printerKeeps = !dialects[printer.dialect].modesCarryE;
    const differs = assumedE.told && assumedE.relative !== printerKeeps;
    findings.push({
      check: "assumed-reading",
      severity: differs ? "warn" : "note",
      where: `line ${assumedE.line + 1}`,
      message: differs
        ? `After this G90, the file's E values only make sense ${counts}. ${printer.name} would read them differently, so this file was probably sliced for another printer; otherwise add ${assumedE.relative ? "M83" : "M82"} after this line.`
        : assumedE.told
          ? `After this G90, extrusion is read ${counts}: no other reading fits the file's E values.`
          : `After this G90, extrusion is read ${counts}, as ${printer.name} does: the file's E values fit both readings.`,
    });
  }
  if (retractionUnsaid) {
    findings.push({
      check: "assumed-reading",
      severity: "note",
      where: "whole file",
      message:
        "The file uses firmware retraction (G10) but never sets its length. The printer's stored value applies, and Cuchara doesn't know it.",
    });
  }
  return findings;
}
