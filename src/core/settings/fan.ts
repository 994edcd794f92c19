import { dialects } from "../machine/dialects";
import { EventKind } from "../gcode/moves";
import { succeed } from "../result";
import { Printer } from "../shelf/printer";
import { clamp } from "../units";
import { Setting } from "./setting";

/** Fan duty S for a percentage: round(255 · percent / 100). Common practice, no source. */
export function fanDuty(percent: number): number {
  return Math.round((255 * clamp(percent, 0, 100)) / 100);
}

/** The duty a printer is really told: one too small to turn the fan is raised to the smallest that does. */
export function turningDuty(percent: number, printer: Pick<Printer, "smallestTurningDuty">): number {
  const duty = fanDuty(percent);
  return duty === 0 ? 0 : Math.max(duty, printer.smallestTurningDuty);
}

export const fan: Setting = {
  label: "Fan",
  short: "fan",
  unit: "%",
  lowest: 0,
  highest: 100,
  step: 10,
  decimals: 1,
  perTool: true,
  usual: (_, spool) => spool?.fanPercent ?? 100,
  say(value, printer, tool) {
    const index = printer.fanPerTool && printer.tools > 1 ? tool : null;
    const line = dialects[printer.dialect].fanLine(turningDuty(value, printer), { index });
    return line.ok ? succeed([line.value]) : line;
  },
  effective: (value, printer) => (turningDuty(value, printer) * 100) / 255,
  hear: (kind, value) => (kind === EventKind.fan ? (clamp(value, 0, 255) * 100) / 255 : null),
  tolerance: 0.2,
};
