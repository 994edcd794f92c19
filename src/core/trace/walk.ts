/**
 * The trace of a program: one walk that says for every bead what holds there, and what happens between beads. It is made of what the one
 * machine and the one command table made of the program (`ProgramTables`) and adds no understanding of its own.
 */
import { EventKind } from "../machine/event-kind";
import { laysMaterial, MoveKind } from "../gcode/moves";
import type { ProgramTables } from "../gcode/tables";
import { Bead } from "./bead";
import { slotOf } from "./fields";

/** Goes along a program bead by bead. */
export class TraceWalk {
  /** The bead it stands at; behind the last one, what holds at the end of the program and what happened behind the last bead. */
  readonly bead = new Bead();
  /** Slots that the program sets anywhere. */
  readonly slots: readonly number[];
  /** Whether the motors are on, as far as the program says. */
  motorsOn = true;
  private move = 0;
  private event = 0;
  private saying = 0;

  constructor(private readonly tables: ProgramTables) {
    const { events } = tables;
    const used = new Set<number>();
    for (let i = 0; i < events.count; i++) used.add(slotOf(events.kind[i] as EventKind, events.tool[i]));
    used.delete(-1);
    this.slots = [...used].sort((a, b) => a - b);
  }

  /** Goes to the next bead; false at the end of the program. */
  next(): boolean {
    const { bead, tables } = this;
    const { moves } = tables;
    bead.way.begin();
    while (this.move < moves.count) {
      const at = this.move++;
      this.hear(at);
      bead.fromX = at > 0 ? moves.x[at - 1] : 0;
      bead.fromY = at > 0 ? moves.y[at - 1] : 0;
      bead.fromZ = at > 0 ? moves.z[at - 1] : 0;
      bead.x = moves.x[at];
      bead.y = moves.y[at];
      bead.z = moves.z[at];
      bead.filamentMm = moves.filamentMm[at];
      bead.feedMmS = moves.feedMmS[at];
      bead.line = moves.line[at];
      if (!laysMaterial(moves.kind[at])) {
        this.pass(moves.kind[at]);
        continue;
      }
      bead.move = at;
      bead.layer = moves.layer[at];
      return true;
    }
    this.hear(Infinity);
    bead.move = moves.count;
    bead.layer = -1;
    bead.filamentMm = 0;
    return false;
  }

  /** Takes in what is said in front of a move. */
  private hear(move: number): void {
    const { bead } = this;
    const { events, sayings } = this.tables;
    for (; this.event < events.count && events.move[this.event] <= move; this.event++) {
      const [kind, value, index] = [
        events.kind[this.event] as EventKind,
        events.value[this.event],
        events.tool[this.event],
      ];
      const slot = slotOf(kind, index);
      if (slot >= 0) {
        bead.set[slot] = value;
        bead.saidAt[slot] = events.line[this.event];
      }
      if (kind === EventKind.tool) bead.tool = value;
      else if (kind === EventKind.motorsOff || kind === EventKind.someMotorsOff) this.motorsOn = false;
      else if (kind === EventKind.motorsOn) this.motorsOn = true;
      if (waitsFor.has(kind))
        bead.way.waits = mixed(mixed(mixed(bead.way.waits, kind), index), Math.round(value * 100));
    }
    for (; this.saying < sayings.count && sayings.move[this.saying] <= move; this.saying++) {
      const hash = sayings.hash[this.saying];
      if (sayings.shows[this.saying]) bead.way.shows = mixed(bead.way.shows, hash);
      else bead.way.says = mixed(bead.way.says, hash);
    }
  }

  /** Takes a move without material into the way. */
  private pass(kind: number): void {
    const { way, fromX, fromY, fromZ, x, y, z, filamentMm, feedMmS } = this.bead;
    if (filamentMm < 0) way.drawnMm -= filamentMm;
    way.balanceMm += filamentMm;
    if (kind === MoveKind.retract || kind === MoveKind.restore) {
      way.standingMm += Math.abs(filamentMm);
      way.drawnS += Math.abs(filamentMm) / feedMmS;
      return;
    }
    const lengthMm = Math.hypot(x - fromX, y - fromY, z - fromZ);
    way.moves++;
    way.lengthMm += lengthMm;
    if (kind !== MoveKind.home) way.travelS += lengthMm / feedMmS;
    way.lowestMm = Math.min(way.lowestMm, z);
    way.highestMm = Math.max(way.highestMm, z);
  }
}

const waitsFor: ReadonlySet<EventKind> = new Set([
  EventKind.nozzleTemperatureWait,
  EventKind.bedTemperatureWait,
  EventKind.dwell,
]);

/** The next figure into a hash (FNV-1a over 32-bit words). */
const mixed = (hash: number, figure: number) => Math.imul((hash || 0x811c9dc5) ^ figure, 0x01000193) >>> 0;
