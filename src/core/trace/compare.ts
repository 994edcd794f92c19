/**
 * Two programs held against each other, bead by bead: what an edit was asked for is there, and nothing else differs. What must be is said as
 * a change to what is (`Asked`): the trace of the program before is changed by it, and must be that of the program after.
 */
import { EventKind } from "../machine/event-kind";
import type { ProgramTables } from "../gcode/tables";
import { plainNumber } from "../units";
import { Bead } from "./bead";
import { bitOf, bitsOf, Field, fieldOfSlot, fields, indexOfSlot, kindOfSlot, wayFields } from "./fields";
import { TraceWalk } from "./walk";

/** What an edit makes of the trace of a program. What it leaves alone must be as it was. */
export interface Asked {
  /** Changes what is at a bead into what must be there afterwards; false where there must be no such bead any more. */
  bead?(bead: Bead, slots: readonly number[]): boolean;
  /** Slots that it may set, whether the file does or not. */
  sets?: readonly number[];
  /** Beads of its own that must come in front of a bead of the file before, whether that stays or not. */
  before?(bead: Bead): readonly NewBead[];
  /** From this bead of the file before on nothing more is asked. */
  until?(bead: Bead): boolean;
  /** What is still to be asked of a bead of the file after; a sentence without its beginning where it is not so. */
  meets?(wanted: Bead, is: Bead): string | null;
  /** Beads of its own may come in a layer (from 0; -1 in front of the first). */
  brings?(layer: number): boolean;
  /** Changes what holds at the end of the program, and what happens behind the last bead. */
  end?(end: Bead, slots: readonly number[]): void;
  /** The motors may be on or off at the end. */
  motors?: "open";
}

/** A bead that an edit brings. What is set there is what is set at the bead in front of which it comes, but for what it says itself. */
export interface NewBead {
  from: { x: number; y: number; z: number };
  to: { x: number; y: number; z: number };
  filamentMm: number;
  feedMmS: number;
  set: ReadonlyMap<number, number>;
}

/** Something that is not as it must be. */
export interface Difference {
  field: Field;
  /** Layer from 0; -1 in front of the first and behind the last. */
  layer: number;
  /** Line of the program after, from 0. */
  line: number;
  /** The place in words: `layer 3, line 94`. */
  where: string;
  /** The whole sentence, with its place. */
  message: string;
}

export interface Compared {
  differences: Difference[];
  /** How many beads agree. */
  beads: number;
  /** All beads were asked about: false where an edit says nothing of those from some place on. */
  isWhole: boolean;
  /** Bits of the fields of which something else was asked, or nothing. */
  asked: number;
}

/** Stands in `Bead.set` for a value of which nothing is asked. */
export const ANYTHING = Infinity;

/** Differences beyond these are not told one by one. */
const MOST_TOLD = 20;
/** Places are written in thousandths, and kept in single figures of seven digits. */
const PLACE_MM = 2e-3;
/** Filament is written in hundred-thousandths of the program's unit, an inch at most; sums of many such figures drift. */
const FILAMENT_MM = 3e-4;
const FILAMENT_SHARE = 1e-3;
/** Feeds are written in whole mm/min by many. */
const FEED_MM_S = 0.02;
const FEED_SHARE = 2e-3;

const near = (a: number, b: number, within: number, share = 0) =>
  a === b || Math.abs(a - b) <= within + share * Math.max(Math.abs(a), Math.abs(b)) || (a !== a && b !== b);

/**
 * Holds a program against the one it was made of.
 *
 * @example
 * // Nothing was asked: every bead must be as it was.
 * compareTraces(readProgram(text), readProgram(text), {}).differences; // []
 */
export function compareTraces(before: ProgramTables, after: ProgramTables, asked: Asked): Compared {
  return new Comparison(before, after, asked).run();
}

class Comparison {
  private readonly is: TraceWalk;
  private readonly was: TraceWalk;
  private readonly slots: readonly number[];
  private readonly wanted = new Bead();
  /** Bits of the fields of which something else was asked, or nothing. */
  private askedBits = 0;
  private readonly differences: Difference[] = [];
  private told = 0;
  private agreed = 0;
  /** Nothing more is asked. */
  private isOver = false;

  constructor(
    before: ProgramTables,
    after: ProgramTables,
    private readonly asked: Asked,
  ) {
    this.was = new TraceWalk(before);
    this.is = new TraceWalk(after);
    this.slots = [...new Set([...this.was.slots, ...this.is.slots, ...(asked.sets ?? [])])].sort((a, b) => a - b);
  }

  run(): Compared {
    const { is } = this;
    let hasWanted = this.want();
    let has = is.next();
    // What is found wrong of a field at one bead mostly goes on: it is told where it begins.
    const going = new Set<Field>();
    while (has && !this.isOver && this.told < MOST_TOLD) {
      this.noteTop();
      if (hasWanted && this.agrees()) {
        if (going.size > 0) going.clear();
        this.agreed++;
        hasWanted = this.want();
        has = is.next();
        continue;
      }
      const wrong = hasWanted ? this.wrongAt() : null;
      if (wrong === null && !hasWanted) {
        if (!this.asked.brings?.(is.bead.layer)) this.tell("place", `lays more than there was${this.where(is.bead)}`);
        has = is.next();
        continue;
      }
      if (wrong!.length > 0 && this.asked.brings?.(is.bead.layer) && !isAtSame(this.wanted, is.bead)) {
        has = is.next();
        continue;
      }
      for (const { field, message } of wrong!) if (!going.has(field)) this.tell(field, message);
      going.clear();
      for (const { field } of wrong!) going.add(field);
      if (going.has("place") || going.has("layer")) break;
      this.agreed++;
      hasWanted = this.want();
      has = is.next();
    }
    if (this.isOver) {
      return { differences: this.differences, beads: this.agreed, isWhole: false, asked: bitsOf(...fields) };
    }
    if (!has && hasWanted && this.told < MOST_TOLD) {
      const { wanted } = this;
      this.tell("place", `does not lay any more what it laid${this.where(wanted)}`, wanted.layer);
      while (hasWanted) hasWanted = this.want();
    }
    while (hasWanted) hasWanted = this.want();
    while (has) {
      this.noteTop();
      has = is.next();
    }
    if (this.differences.every(({ field }) => field !== "place" && field !== "layer")) this.holdEnd();
    return { differences: this.differences, beads: this.agreed, isWhole: true, asked: this.askedBits };
  }

  /** Beads that an edit brings, those that come next last. */
  private readonly coming: NewBead[] = [];
  /** A bead of the file before was come to, and those that come in front of it are not all passed. */
  private isHeld = false;

  /** Goes to the next bead that must be there, as it must be; false where none is left. */
  private want(): boolean {
    const { was, wanted, asked } = this;
    for (;;) {
      if (!this.isHeld) {
        if (!was.next()) return false;
        was.bead.open = 0;
        this.topMm.was = Math.max(this.topMm.was, was.bead.z);
        if (asked.until?.(was.bead)) {
          this.isOver = true;
          return false;
        }
        this.coming.push(...(asked.before?.(was.bead) ?? []).toReversed());
      }
      wanted.copy(was.bead, this.slots);
      const coming = this.coming.pop();
      if (coming) {
        this.isHeld = true;
        this.bring(coming);
        return true;
      }
      this.isHeld = false;
      const stays = asked.bead?.(wanted, this.slots) ?? true;
      if (!stays) this.askedBits |= bitOf.place | bitOf.filament | bitOf.feed;
      if (asked.bead) this.noteAsked();
      if (stays) return true;
    }
  }

  /** Makes what must be there one of the edit's own beads. */
  private bring({ from, to, filamentMm, feedMmS, set }: NewBead): void {
    const { wanted } = this;
    [wanted.fromX, wanted.fromY, wanted.fromZ] = [from.x, from.y, from.z];
    [wanted.x, wanted.y, wanted.z] = [to.x, to.y, to.z];
    wanted.filamentMm = filamentMm;
    wanted.feedMmS = feedMmS;
    for (const [slot, value] of set) wanted.set[slot] = value;
    wanted.open = bitsOf("layer", ...wayFields);
    this.askedBits |= bitOf.place | bitOf.filament | bitOf.feed;
  }

  /** How high the print stands, before and after. */
  private readonly topMm = { was: 0, is: 0 };

  private noteTop(): void {
    this.topMm.is = Math.max(this.topMm.is, this.is.bead.z);
  }

  private noteAsked(): void {
    const { wanted, was } = this;
    this.askedBits |= wanted.open;
    if (wanted.x !== was.bead.x || wanted.y !== was.bead.y || wanted.z !== was.bead.z) this.askedBits |= bitOf.place;
    if (wanted.filamentMm !== was.bead.filamentMm) this.askedBits |= bitOf.filament;
    if (wanted.feedMmS !== was.bead.feedMmS) this.askedBits |= bitOf.feed;
    if (wanted.tool !== was.bead.tool) this.askedBits |= bitOf.tool;
    for (const slot of this.slots) {
      if (!near(wanted.set[slot], was.bead.set[slot], 0)) this.askedBits |= bitOf[fieldOfSlot(slot)];
    }
  }

  /** Whether all is as it must be at the bead it stands at: what nearly all beads are asked. */
  private agrees(): boolean {
    const [a, b] = [this.wanted, this.is.bead];
    const { open } = a;
    if (a.layer !== b.layer && !(open & bitOf.layer)) return false;
    if (a.tool !== b.tool && !(open & bitOf.tool)) return false;
    if (!(open & bitOf.place) && !isAtSame(a, b)) return false;
    if (!(open & bitOf.filament) && !near(a.filamentMm, b.filamentMm, FILAMENT_MM, FILAMENT_SHARE)) return false;
    if (!(open & bitOf.feed) && !near(a.feedMmS, b.feedMmS, FEED_MM_S, FEED_SHARE)) return false;
    for (const slot of this.slots) {
      const [wanted, is] = [a.set[slot], b.set[slot]];
      if (wanted !== is && (wanted === wanted || is === is) && wanted !== ANYTHING) return false;
    }
    const [p, q] = [a.way, b.way];
    // From bead to bead mostly nothing happens.
    const isStill = p.moves === 0 && q.moves === 0 && p.standingMm === 0 && q.standingMm === 0;
    const isSilent = p.waits === q.waits && p.shows === q.shows && p.says === q.says;
    if (!isStill || !isSilent) return false;
    return (this.asked.meets?.(a, b) ?? null) === null;
  }

  /** What is not as it must be at the bead it stands at. */
  private wrongAt(): { field: Field; message: string }[] {
    const [a, b] = [this.wanted, this.is.bead];
    const wrong: { field: Field; message: string }[] = [];
    const isOpen = (field: Field) => (a.open & bitOf[field]) !== 0;
    const say = (field: Field, message: string) => void wrong.push({ field, message });
    if (a.layer !== b.layer && !isOpen("layer")) {
      say("layer", `lays in layer ${b.layer + 1} what belongs to layer ${a.layer + 1}`);
    }
    if (!isOpen("place")) {
      if (!isAtSame(a, b)) say("place", `lays ${sayPlaces(b)} instead of ${sayPlaces(a)}`);
    }
    if (!isOpen("filament") && !near(a.filamentMm, b.filamentMm, FILAMENT_MM, FILAMENT_SHARE))
      say("filament", `feeds ${figure(b.filamentMm, 4)} mm of filament instead of ${figure(a.filamentMm, 4)} mm`);
    if (!isOpen("feed") && !near(a.feedMmS, b.feedMmS, FEED_MM_S, FEED_SHARE))
      say("feed", `lays at ${figure(b.feedMmS, 2)} mm/s instead of ${figure(a.feedMmS, 2)} mm/s`);
    if (!isOpen("tool") && a.tool !== b.tool) say("tool", `lays with tool ${b.tool} instead of tool ${a.tool}`);
    wrong.push(...this.wrongSet(isOpen));
    wrong.push(...this.wrongWay(isOpen));
    const unmet = this.asked.meets?.(a, b);
    if (unmet) say("says", unmet);
    return wrong;
  }

  private wrongSet(isOpen: (field: Field) => boolean): { field: Field; message: string }[] {
    const [a, b] = [this.wanted, this.is.bead];
    const wrong: { field: Field; message: string }[] = [];
    for (const slot of this.slots) {
      if (a.set[slot] === ANYTHING || near(a.set[slot], b.set[slot], 1e-6)) continue;
      const field = fieldOfSlot(slot);
      if (!isOpen(field)) wrong.push({ field, message: saySet(slot, b.set[slot], a.set[slot]) });
    }
    return wrong;
  }

  private wrongWay(isOpen: (field: Field) => boolean): { field: Field; message: string }[] {
    const [a, b] = [this.wanted.way, this.is.bead.way];
    const wrong: { field: Field; message: string }[] = [];
    const say = (field: Field, message: string) => void (isOpen(field) || wrong.push({ field, message }));
    const within = PLACE_MM * (1 + a.moves);
    if (a.moves !== b.moves || !near(a.lengthMm, b.lengthMm, 2 * within))
      say("travel", `travels ${figure(b.lengthMm)} mm before it instead of ${figure(a.lengthMm)} mm`);
    else if (!near(a.lowestMm, b.lowestMm, within) || !near(a.highestMm, b.highestMm, within))
      say(
        "travel",
        `travels at heights of ${figure(b.lowestMm)} to ${figure(b.highestMm)} mm instead of ${figure(a.lowestMm)} to ${figure(a.highestMm)} mm`,
      );
    if (!near(a.travelS, b.travelS, 1e-3, FEED_SHARE)) say("travelFeed", "travels there at another speed");
    if (!near(a.drawnMm, b.drawnMm, 1e-3, 1e-3))
      say("drawn", `draws back ${figure(b.drawnMm)} mm of filament before it instead of ${figure(a.drawnMm)} mm`);
    if (!near(a.balanceMm, b.balanceMm, 1e-3, 1e-3))
      say(
        "balance",
        `gives back ${figure(b.balanceMm, 3)} mm of filament more than was drawn back, instead of ${figure(a.balanceMm, 3)} mm`,
      );
    // Of what feeds nothing, or as fast as the extruder goes, there is no speed.
    if (a.drawnS > 0 && b.drawnS > 0 && !near(a.standingMm / a.drawnS, b.standingMm / b.drawnS, FEED_MM_S, FEED_SHARE))
      say("drawnFeed", "draws filament back or gives it back at another speed");
    if (a.waits !== b.waits) say("waits", "waits for something else");
    if (a.shows !== b.shows) say("shows", "shows something else on the printer's screen");
    if (a.says !== b.says) say("says", "gets another command");
    return wrong;
  }

  private holdEnd(): void {
    const { wanted, was, is } = this;
    was.bead.open = 0;
    wanted.copy(was.bead, this.slots);
    this.asked.end?.(wanted, this.slots);
    const isOpen = (field: Field) => (wanted.open & bitOf[field]) !== 0;
    const bead = is.bead;
    if (
      !isOpen("place") &&
      !(near(wanted.x, bead.x, PLACE_MM) && near(wanted.y, bead.y, PLACE_MM) && near(wanted.z, bead.z, PLACE_MM))
    )
      this.tellEnd(
        "place",
        `ends at ${sayPlace(bead.x, bead.y, bead.z)} instead of ${sayPlace(wanted.x, wanted.y, wanted.z)}`,
      );
    if (!isOpen("tool") && wanted.tool !== bead.tool)
      this.tellEnd("tool", `ends with tool ${bead.tool} instead of tool ${wanted.tool}`);
    if (this.asked.motors !== "open" && was.motorsOn !== is.motorsOn)
      this.tellEnd("says", is.motorsOn ? "leaves the motors on" : "leaves the motors off");
    for (const { field, message } of [...this.wrongSet(isOpen), ...this.wrongWay(isOpen)]) this.tellEnd(field, message);
    const [clearWas, clearIs] = [was.bead.way.lowestMm - this.topMm.was, bead.way.lowestMm - this.topMm.is];
    if (clearIs < Math.min(0, clearWas) - PLACE_MM)
      this.tellEnd(
        "travel",
        `comes down to ${figure(bead.way.lowestMm)} mm behind a print that is ${figure(this.topMm.is)} mm high`,
      );
  }

  private tell(field: Field, message: string, layer = this.is.bead.layer): void {
    this.told++;
    this.put({ field, layer, line: this.is.bead.line, message });
  }

  private tellEnd(field: Field, message: string): void {
    this.put({ field, layer: -1, line: this.is.bead.line, message });
  }

  private put({ message, ...rest }: Omit<Difference, "where">): void {
    const { layer, line } = rest;
    const where = layer >= 0 ? `layer ${layer + 1}, line ${line + 1}` : `line ${line + 1}`;
    const sentence = `${where[0].toUpperCase()}${where.slice(1)} ${message}.`;
    this.differences.push({ ...rest, where, message: sentence });
  }

  private where = (bead: Bead) => ` (${sayPlaces(bead)})`;
}

/** Whether two beads lie at the same place. */
function isAtSame(a: Bead, b: Bead): boolean {
  const isThere = near(a.x, b.x, PLACE_MM) && near(a.y, b.y, PLACE_MM) && near(a.z, b.z, PLACE_MM);
  return (
    isThere && near(a.fromX, b.fromX, PLACE_MM) && near(a.fromY, b.fromY, PLACE_MM) && near(a.fromZ, b.fromZ, PLACE_MM)
  );
}

const figure = (value: number, decimals = 2) => (Number.isFinite(value) ? plainNumber(value, decimals) : "–");
const sayPlace = (x: number, y: number, z: number) => `X ${figure(x)}, Y ${figure(y)}, Z ${figure(z)}`;
const sayPlaces = ({ fromX, fromY, x, y, z }: Bead) =>
  `from X ${figure(fromX)}, Y ${figure(fromY)} to ${sayPlace(x, y, z)}`;

/** What a slot is called, and its unit. */
const names: Partial<Record<EventKind, [name: string, unit: string]>> = {
  [EventKind.nozzleTemperature]: ["the nozzle", "°C"],
  [EventKind.bedTemperature]: ["the bed", "°C"],
  [EventKind.fan]: ["the fan", "%"],
  [EventKind.speedFactor]: ["the speed factor", "%"],
  [EventKind.flowFactor]: ["the flow factor", "%"],
  [EventKind.printAcceleration]: ["the acceleration", "mm/s²"],
  [EventKind.travelAcceleration]: ["the acceleration of travel", "mm/s²"],
  [EventKind.retractAcceleration]: ["the acceleration of the extruder", "mm/s²"],
  [EventKind.junctionDeviation]: ["the junction deviation", "mm"],
  [EventKind.pressureAdvance]: ["the pressure advance", "s"],
};

function saySet(slot: number, is: number, wanted: number): string {
  const kind = kindOfSlot(slot);
  const [name, unit] = names[kind] ?? [fieldOfSlot(slot) === "cornering" ? "the cornering speed" : "a limit", ""];
  const which = indexOfSlot(slot) > 0 ? ` ${indexOfSlot(slot)}` : "";
  const value = (one: number) =>
    Number.isNaN(one)
      ? "nothing"
      : `${plainNumber(kind === EventKind.fan ? (one * 100) / 255 : one, 3)} ${unit}`.trim();
  return `has ${name}${which} set to ${value(is)} instead of ${value(wanted)}`;
}

/** Fields of which nothing else was asked anywhere. */
export const untouched = ({ asked }: Pick<Compared, "asked">): Field[] =>
  fields.filter((field) => !(asked & bitOf[field]));
