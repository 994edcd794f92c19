/** How moves are made, as a file has said it: settings that hold until somebody says otherwise. */
import type { ProgramTables } from "../gcode/tables";
import { EventKind } from "../machine/event-kind";
import type { MachineState } from "../machine/state";
import { settingFor } from "../settings";
import type { Printer } from "../shelf/printer";
import { slotOf } from "../trace/fields";
import { TraceWalk } from "../trace/walk";

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

/** What a state holds, of the tool that is in or of another. */
export function movesMadeIn(state: Readonly<MachineState>, tool = state.tool): MovesMade {
  return {
    acceleration: state.printAccelerationMmS2,
    jerk: state.jerkMmS.x,
    junctionDeviation: state.junctionDeviationMm,
    pressureAdvance: state.pressureAdvanceS[tool] ?? NaN,
    flowFactor: state.flowPercent[tool] ?? NaN,
    speedFactor: state.speedPercent,
  };
}

/** What holds at some beads of a program. @param wanted their rows in the move table */
export function movesMadeAt(tables: ProgramTables, wanted: ReadonlySet<number>): Map<number, MovesMade> {
  const walk = new TraceWalk(tables);
  const { bead } = walk;
  const made = new Map<number, MovesMade>();
  while (walk.next()) {
    if (!wanted.has(bead.move)) continue;
    const set = (kind: EventKind, index = 0) => bead.set[slotOf(kind, index)];
    made.set(bead.move, {
      acceleration: set(EventKind.printAcceleration),
      jerk: set(EventKind.jerkX),
      junctionDeviation: set(EventKind.junctionDeviation),
      pressureAdvance: set(EventKind.pressureAdvance, bead.tool),
      flowFactor: set(EventKind.flowFactor, bead.tool),
      speedFactor: Number.isNaN(set(EventKind.speedFactor)) ? 100 : set(EventKind.speedFactor),
    });
  }
  return made;
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
