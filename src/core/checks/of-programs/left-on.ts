import { Finding } from "../../findings/finding";
import { plainNumber } from "../../units";
import { ProgramCheck } from "../check";

/** Heaters, fans or motors that are still on when the program ends. Every tool is looked at. */
export const leftOn: ProgramCheck = {
  key: "left-on",
  passes: "Heaters, fan and motors are off at the end.",
  run({ report: { facts, filament }, trial }) {
    const { nozzles, bedC, fans, motors } = facts.leftOn;
    const findings: Finding[] = [];
    const where = trial ? "end lines" : "end of the file";
    const into = trial ? "the end lines" : "its end";
    const add = (severity: "stop" | "warn", message: string) =>
      findings.push({
        check: "left-on",
        severity,
        where,
        message,
        ...(trial ? { mend: { label: "Look at the printer's end lines", open: "printer" as const } } : {}),
      });
    const severity = facts.unknownAtEnd ? "warn" : "stop";
    const unsure = facts.unknownAtEnd ? " One of the commands at its end that are not known here may do that." : "";
    const several = filament.length > 1 || nozzles.some(({ tool }) => tool > 0);
    for (const { tool, valueC } of nozzles) {
      const which = several ? `Nozzle ${tool}` : "The nozzle";
      const line = several ? `M104 S0 T${tool}` : "M104 S0";
      add(severity, `${which} stays at ${plainNumber(valueC, 0)} °C after the print. Add ${line} to ${into}.${unsure}`);
    }
    if (bedC > 0) {
      add(severity, `The bed stays at ${plainNumber(bedC, 0)} °C after the print. Add M140 S0 to ${into}.${unsure}`);
    }
    if (fans.length > 0) add("warn", `The fan keeps turning after the print. Turn it off in ${into}.`);
    if (motors) add("warn", `The motors stay on after the print. Add M84 to ${into}.`);
    return findings;
  },
};
