/** Commands whose name is a word (`NAME KEY=value`), as the keyword dialect has them. Common practice, no source. */
import { EventKind } from "./moves";

const keysOf: Record<string, Record<string, EventKind[]>> = {
  // One acceleration for printing and travelling.
  SET_VELOCITY_LIMIT: {
    ACCEL: [EventKind.printAcceleration, EventKind.travelAcceleration],
    SQUARE_CORNER_VELOCITY: [EventKind.jerkX],
  },
  SET_PRESSURE_ADVANCE: { ADVANCE: [EventKind.pressureAdvance] },
  SET_RETRACTION: {
    RETRACT_LENGTH: [EventKind.firmwareRetractLength],
    RETRACT_SPEED: [EventKind.firmwareRetractSpeed],
  },
};

/** What the command changes, or null if its name is not known. */
export function readNamedCommand(text: string): [EventKind, number][] | null {
  const words = text.split(";", 1)[0].trim().split(/\s+/);
  const keys = keysOf[words[0].toUpperCase()];
  if (!keys) return null;
  const readings: [EventKind, number][] = [];
  for (const word of words.slice(1)) {
    const [key, value] = word.split("=", 2);
    if (!Number.isFinite(Number(value))) continue;
    for (const kind of keys[key.toUpperCase()] ?? []) readings.push([kind, Number(value)]);
  }
  return readings;
}
