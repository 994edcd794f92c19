/** What a trace knows of a bead, field by field: what two programs can agree or differ in. */
import { EventKind } from "../machine/event-kind";
import { MOST_TOOLS } from "../machine/state";

/**
 * At the bead itself: `layer` it is of, `place` (from, to), `filament`, `feed`, `tool`, and what was set when it is laid (`heat` of all nozzles,
 * `bed`, `fan` of all fans, `acceleration` with the axes' limits, `cornering`, `advance`, `factors`). On the way to it, behind the bead
 * before: `travel` (over which places, how high), `travelFeed`, `drawn` (filament drawn back), `balance` (what of it is still drawn back, or was
 * given too much), `drawnFeed`, `waits` (for heat, dwells), `shows` (on the printer's screen), `says` (every other line).
 */
export const fields = [
  "layer",
  "place",
  "filament",
  "feed",
  "tool",
  "heat",
  "bed",
  "fan",
  "acceleration",
  "cornering",
  "advance",
  "factors",
  "travel",
  "travelFeed",
  "drawn",
  "balance",
  "drawnFeed",
  "waits",
  "shows",
  "says",
] as const;
export type Field = (typeof fields)[number];

/** Each field as one bit. */
export const bitOf = Object.fromEntries(fields.map((field, i) => [field, 1 << i])) as Record<Field, number>;

/** The bits of some fields. */
export const bitsOf = (...some: readonly Field[]): number => some.reduce((bits, field) => bits | bitOf[field], 0);

/** What happens between two beads. */
export const wayFields = ["travel", "travelFeed", "drawn", "balance", "drawnFeed", "waits", "shows", "says"] as const;
/** What is set, and holds until something else is. */
export const setFields = ["heat", "bed", "fan", "acceleration", "cornering", "advance", "factors"] as const;

/** The field of each told quantity; those that are left out are no settings. */
const fieldOfKind: Partial<Record<EventKind, Field>> = {
  [EventKind.nozzleTemperature]: "heat",
  [EventKind.bedTemperature]: "bed",
  [EventKind.fan]: "fan",
  [EventKind.speedFactor]: "factors",
  [EventKind.flowFactor]: "factors",
  [EventKind.printAcceleration]: "acceleration",
  [EventKind.travelAcceleration]: "acceleration",
  [EventKind.retractAcceleration]: "acceleration",
  [EventKind.axisAccelerationX]: "acceleration",
  [EventKind.axisAccelerationY]: "acceleration",
  [EventKind.axisAccelerationZ]: "acceleration",
  [EventKind.axisAccelerationE]: "acceleration",
  [EventKind.axisFeedX]: "acceleration",
  [EventKind.axisFeedY]: "acceleration",
  [EventKind.axisFeedZ]: "acceleration",
  [EventKind.axisFeedE]: "acceleration",
  [EventKind.jerkX]: "cornering",
  [EventKind.jerkY]: "cornering",
  [EventKind.jerkZ]: "cornering",
  [EventKind.jerkE]: "cornering",
  [EventKind.junctionDeviation]: "cornering",
  [EventKind.pressureAdvance]: "advance",
  [EventKind.firmwareRetractLength]: "drawn",
  [EventKind.firmwareRetractSpeed]: "drawnFeed",
  [EventKind.toolOffset]: "place",
};

const KINDS = Math.max(...Object.values(EventKind)) + 1;
/** So many slots there are: one for each quantity of each tool, fan or axis. */
export const SLOTS = KINDS * MOST_TOOLS;

/** Heating and waiting sets the same as heating. */
const setsSame: Partial<Record<EventKind, EventKind>> = {
  [EventKind.nozzleTemperatureWait]: EventKind.nozzleTemperature,
  [EventKind.bedTemperatureWait]: EventKind.bedTemperature,
};

/** Quantities that every tool or fan has for itself; of the others the printer has one, whichever tool is in when they are told. */
const ofEach: ReadonlySet<EventKind> = new Set([
  EventKind.nozzleTemperature,
  EventKind.fan,
  EventKind.flowFactor,
  EventKind.pressureAdvance,
  EventKind.toolOffset,
]);

/** The slot of a told quantity; -1 for those that set nothing that holds. @param index tool or fan */
export function slotOf(kind: EventKind, index: number): number {
  const sets = setsSame[kind] ?? kind;
  if (fieldOfKind[sets] === undefined || !(index >= 0 && index < MOST_TOOLS)) return -1;
  return sets * MOST_TOOLS + (ofEach.has(sets) ? index : 0);
}

/** The field of a slot. */
export const fieldOfSlot = (slot: number): Field => fieldOfKind[Math.floor(slot / MOST_TOOLS) as EventKind]!;
/** The quantity of a slot, and the tool or fan it is of. */
export const kindOfSlot = (slot: number): EventKind => Math.floor(slot / MOST_TOOLS) as EventKind;
export const indexOfSlot = (slot: number): number => slot % MOST_TOOLS;
