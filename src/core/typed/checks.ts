/** Checks of a program that is written by hand. A new one is one entry here; what every program is held to comes from `checks`. */
import { programChecks } from "../checks";
import { checkFile } from "../checks/file";
import { Finding, worstFirst } from "../findings/finding";
import type { ProgramTables } from "../gcode/read";
import { limitsFor } from "../motion/limits";
import { reportOf } from "../report/report";
import { headOf, Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import type { TypedFacts } from "./facts";

type TypedCheck = (facts: TypedFacts, tables: ProgramTables, printer: Printer) => Finding | null;

const checks: TypedCheck[] = [
  ({ unhomed }, _tables, printer) =>
    unhomed && {
      check: "unhomed",
      severity: "warn",
      where: `line ${unhomed.line}`,
      message: `${unhomed.axes} moves before it was homed: ${printer.name} does not know where it stands. Home it before that with G28.`,
    },
  ({ belowBed }) =>
    belowBed && {
      check: "below-bed",
      severity: "stop",
      where: `line ${belowBed.line}`,
      message: `The nozzle goes ${plainNumber(-belowBed.value, 2)} mm through the bed.`,
    },
  ({ relativeSince }) =>
    relativeSince === null
      ? null
      : {
          check: "relative-left",
          severity: "warn",
          where: `line ${relativeSince}`,
          message: "Positions still count from where the nozzle stands when the program ends. Add G90.",
        },
  ({ inchesSince }) =>
    inchesSince === null
      ? null
      : {
          check: "inches-left",
          severity: "warn",
          where: `line ${inchesSince}`,
          message: "The program ends counting in inches. Add G21.",
        },
  (_facts, { unknown }) =>
    unknown.length === 0
      ? null
      : {
          check: "unknown-commands",
          severity: "note",
          where: "the program",
          message: `${unknown
            .slice(0, 5)
            .map(({ command }) => `“${command}”`)
            .join(", ")} ${unknown.length === 1 ? "is" : "are"} not known here, and passed over.`,
        },
];

/** What is wrong with it, worst first. */
export function checkTyped(facts: TypedFacts, tables: ProgramTables, printer: Printer): Finding[] {
  const { report } = reportOf(tables, limitsFor(printer), headOf(printer));
  const own = checks.flatMap((check) => check(facts, tables, printer) ?? []);
  // A program that turns nothing on leaves nothing on: motors alone are no print that has ended.
  const wasOn = tables.events.count > 0 || report.filament.length > 0;
  const usual = checkFile(report, printer, programChecks).filter(({ check }) => check !== "left-on" || wasOn);
  return worstFirst([...own, ...usual]);
}
