/** Lines that deserve a question before they are sent: what a command tells, moves and keeps says whether it does. */
import { forEachTalked } from "../gcode/talk-line";
import { Command, DangerKind, hasCommand } from "../machine/command";
import { EventKind } from "../machine/event-kind";
import { Reading, usualReading } from "../machine/reading";
import { freshState } from "../machine/state";
import { Words } from "../machine/words";
import { COLDEST_FEED_C } from "../material/materials";
import { plainNumber } from "../units";

/** What is known of a printer while talking to it; null where it is not known. */
export interface KnownState {
  homed: boolean | null;
  nozzleC: number | null;
}

export interface Danger {
  kind: DangerKind;
  reason: string;
}

/**
 * Why a line should be asked about, or null. Every command on it is looked at; those the printer does not have do nothing.
 *
 * @example
 * dangerOf("G1 X10", { homed: false, nozzleC: 20 }).kind; // "unhomed"
 * dangerOf("M105", { homed: false, nozzleC: 20 }); // null
 */
export function dangerOf(text: string, known: KnownState, reading: Reading = usualReading): Danger | null {
  let danger: Danger | null = null;
  forEachTalked(text, (command, words) => {
    if (danger === null && command && hasCommand(command, reading))
      danger = dangerOfCommand(command, words, known, reading);
  });
  return danger;
}

function dangerOfCommand(command: Command, words: Words, known: KnownState, reading: Reading): Danger | null {
  if (command.danger) return command.danger;
  const { moves } = command;
  if (moves === "straight" || moves === "clockwise" || moves === "counter-clockwise") return dangerOfMove(words, known);
  return dangerOfHeat(command, words, reading);
}

/** A heater that is told to be warm stays so until somebody says otherwise. */
function dangerOfHeat(command: Command, words: Words, reading: Reading): Danger | null {
  let danger: Danger | null = null;
  command.act?.(
    freshState(),
    words,
    (kind, value) => {
      const isNozzle = kind === EventKind.nozzleTemperature || kind === EventKind.nozzleTemperatureWait;
      const isBed = kind === EventKind.bedTemperature || kind === EventKind.bedTemperatureWait;
      if (!(isNozzle || isBed) || !(value > 0)) return;
      const heater = isBed ? "bed" : "nozzle";
      danger ??= { kind: "heater", reason: `Heats the ${heater} to ${plainNumber(value)} °C and keeps it there.` };
    },
    reading,
  );
  return danger;
}

function dangerOfMove(words: Words, { homed, nozzleC }: KnownState): Danger | null {
  if (["X", "Y", "Z"].some((axis) => words.has(axis)) && homed !== true) {
    return {
      kind: "unhomed",
      reason: "The printer has not been homed, so it may run into its own end. G28 homes it.",
    };
  }
  if (Number.isNaN(words.value("E")) || (nozzleC !== null && nozzleC >= COLDEST_FEED_C)) return null;
  return {
    kind: "cold",
    reason:
      nozzleC === null
        ? "Feeds filament, and the nozzle's temperature is not known."
        : `Feeds filament through a nozzle of ${Math.round(nozzleC)} °C; below ${COLDEST_FEED_C} °C the gear grinds it.`,
  };
}
