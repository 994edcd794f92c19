import { EventKind } from "../gcode/moves";
import { plainNumber } from "../units";
import { Check, Finding } from "./finding";

/** Heaters, fans or motors that are still on when the program ends. Every tool is looked at. */
export const leftOn: Check = {
  key: "left-on",
  passes: "Heaters, fan and motors are off at the end.",
  run({ tables: { events } }) {
    const nozzles = new Map<number, number>();
    const fans = new Map<number, number>();
    let bed = 0;
    let motors = true;
    for (let i = 0; i < events.count; i++) {
      const value = events.value[i];
      switch (events.kind[i]) {
        case EventKind.nozzleTemperature:
        case EventKind.nozzleTemperatureWait:
          nozzles.set(events.tool[i], value);
          break;
        case EventKind.bedTemperature:
        case EventKind.bedTemperatureWait:
          bed = value;
          break;
        case EventKind.fan:
          fans.set(events.tool[i], value);
          break;
        case EventKind.motorsOff:
          motors = false;
          break;
        case EventKind.motorsOn:
          motors = true;
          break;
      }
    }
    const findings: Finding[] = [];
    const add = (severity: "stop" | "warn", message: string) =>
      findings.push({
        check: "left-on",
        severity,
        where: "end lines",
        message,
        mend: { label: "Look at the printer's end lines", open: "printer" },
      });
    for (const [tool, value] of nozzles) {
      if (value <= 0) continue;
      const which = nozzles.size > 1 ? `Nozzle ${tool}` : "The nozzle";
      const line = nozzles.size > 1 ? `M104 S0 T${tool}` : "M104 S0";
      add("stop", `${which} stays at ${plainNumber(value, 0)} °C after the print. Add ${line} to the end lines.`);
    }
    if (bed > 0)
      add("stop", `The bed stays at ${plainNumber(bed, 0)} °C after the print. Add M140 S0 to the end lines.`);
    const running = [...fans].filter(([, value]) => value > 0).map(([index]) => index);
    if (running.length > 0) add("warn", `The fan keeps turning after the print. Turn it off in the end lines.`);
    if (motors) add("warn", "The motors stay on after the print. Add M84 to the end lines.");
    return findings;
  },
};
