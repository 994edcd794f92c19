/** What edits ask of the trace of a file: the parts that several kinds say. */
import { forEachTalked } from "../gcode/talk-line";
import { hasCommand } from "../machine/command";
import { EventKind } from "../machine/event-kind";
import { obey } from "../machine/obey";
import type { Reading } from "../machine/reading";
import { freshState } from "../machine/state";
import { settingFor, SettingKey } from "../settings";
import { Bead } from "../trace/bead";
import { ANYTHING } from "../trace/compare";
import { bitOf, bitsOf, Field, fieldOfSlot, kindOfSlot, setFields, slotOf, wayFields } from "../trace/fields";

/** Everything that happens on a way. */
export const WAY = bitsOf(...wayFields);
/** Everything that is set. */
export const SET = bitsOf(...setFields);
/** How a way goes, but not what is said on it. */
export const WAY_ITSELF = bitsOf("travel", "travelFeed", "drawn", "drawnFeed");

/** What some lines set, in their order. @param tool the one that is in */
export function setBy(lines: readonly string[], reading: Reading, tool = 0): { slot: number; value: number }[] {
  const state = { ...freshState(), tool };
  const set: { slot: number; value: number }[] = [];
  for (const line of lines) {
    forEachTalked(line, (command, words) => {
      if (!command || !hasCommand(command, reading)) return;
      obey(state, command, words, reading, (kind, value, index) => {
        const slot = slotOf(kind, index);
        if (slot >= 0) set.push({ slot, value });
      });
    });
  }
  return set;
}

/** Whether some lines do nothing but set. */
export function onlySet(lines: readonly string[], reading: Reading): boolean {
  let onlySets = true;
  for (const line of lines) {
    forEachTalked(line, (command, words) => {
      let told = 0;
      if (command && hasCommand(command, reading)) obey(freshState(), command, words, reading, () => void told++);
      onlySets &&= told > 0;
    });
  }
  return onlySets;
}

/** The fields that a setting is seen in, whatever way a file says it in. */
export function fieldsOf(key: SettingKey): number {
  const setting = settingFor(key);
  let bits = bitsOf(...(setting.inside?.seenIn ?? []));
  for (const kind of Object.values(EventKind)) {
    if (setting.hear(kind, 1) === null) continue;
    const slot = slotOf(kind, 0);
    if (slot >= 0) bits |= bitOf[fieldOfSlot(slot)];
    if (kind === EventKind.speedFactor) bits |= bitsOf("feed", "travelFeed", "drawnFeed");
    if (kind === EventKind.flowFactor) bits |= bitOf.filament;
    if (kind === EventKind.nozzleTemperatureWait || kind === EventKind.bedTemperatureWait) bits |= bitOf.waits;
  }
  return bits;
}

/** Values that an edit says over those of the file: each holds until the file itself says another. */
export class SaidOver {
  private readonly held = new Map<number, { value: number; since: number }>();

  /** @param since the line (from 0) in front of which it is said */
  say(slot: number, value: number, since: number): void {
    this.held.set(slot, { value, since });
  }

  /** What is set at a bead with it: factors change feed and filament, too. */
  lay(bead: Bead): void {
    for (const [slot, { value, since }] of this.held) {
      if (bead.saidAt[slot] >= since) continue;
      factorsApart(bead, slot, value);
      bead.set[slot] = value;
    }
  }
}

/** Feed and filament of a bead with another factor in force. */
function factorsApart(bead: Bead, slot: number, value: number): void {
  const own = Number.isNaN(bead.set[slot]) ? 100 : bead.set[slot];
  if (slot === slotOf(EventKind.speedFactor, 0)) {
    bead.feedMmS *= value / own;
    bead.way.travelS *= own / value;
    bead.way.drawnS *= own / value;
  } else if (slot === slotOf(EventKind.flowFactor, bead.tool)) bead.filamentMm *= value / own;
  else if (isOfRetraction(slot)) bead.open |= bitsOf("drawn", "balance", "drawnFeed");
}

const isOfRetraction = (slot: number): boolean => {
  const kind = kindOfSlot(slot);
  return kind === EventKind.firmwareRetractLength || kind === EventKind.firmwareRetractSpeed;
};

/** What nobody has said may be anything. */
export function openUnsaid(bead: Bead, slots: readonly number[]): void {
  for (const slot of slots) if (Number.isNaN(bead.set[slot])) bead.set[slot] = ANYTHING;
}

/** Some fields, where some of an edit's places were left alone. */
export const leftAlone = (skip: readonly number[] | undefined, ...some: Field[]): number =>
  skip && skip.length > 0 ? bitsOf(...some) : 0;
