/** How moves are made, as a file has said it: settings that hold until somebody says otherwise. */
import type { MachineState } from "../machine/state";
import { settingFor } from "../settings";
import type { Printer } from "../shelf/printer";

export const movesMadeKeys = [
  "acceleration",
  "jerk",
  "junctionDeviation",
  "pressureAdvance",
  "flowFactor",
  "speedFactor",
] as const;

/** Each in the unit of its setting; NaN where nothing was said. */
export type MovesMade = Record<(typeof movesMadeKeys)[number], number>;

/** What a state holds, of the tool that is in. */
export function movesMadeIn(state: Readonly<MachineState>): MovesMade {
  return {
    acceleration: state.printAccelerationMmS2,
    jerk: state.jerkMmS.x,
    junctionDeviation: state.junctionDeviationMm,
    pressureAdvance: state.pressureAdvanceS[state.tool] ?? NaN,
    flowFactor: state.flowPercent[state.tool] ?? NaN,
    speedFactor: state.speedPercent,
  };
}

/**
 * Lines that bring the one to the other, in the printer's own words. What is said now and was never said by whoever goes on is as the printer
 * has it.
 *
 * @param wanted as whoever goes on counts on it @param now as it is
 */
export function sayMovesMade(wanted: MovesMade, now: MovesMade, printer: Printer, tool: number): string[] {
  return movesMadeKeys.flatMap((key) => {
    const value =
      Number.isNaN(wanted[key]) && !Number.isNaN(now[key]) ? settingFor(key).usual(printer, null) : wanted[key];
    if (Number.isNaN(value) || value === now[key]) return [];
    const said = settingFor(key).say(value, printer, tool);
    return said.ok ? said.value : [];
  });
}
