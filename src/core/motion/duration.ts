/**
 * How long a program really takes: look-ahead over all moves with acceleration and cornering, dwells included. Estimates
 * without acceleration are wrong by tens of percent on small parts (common practice, no source).
 */
import { EventKind, EventTable, MoveKind, MoveTable } from "../gcode/moves";
import { cornerMmS, cruiseMmS, MotionLimits, restMmS, SLOWEST_MM_S, withinAxes } from "./model";
import { trapezoidSeconds } from "./trapezoid";

export type { MotionLimits } from "./model";

const axes = ["x", "y", "z", "e"] as const;

/** What limits the moves while a program runs: the printer's own figures, and what the program has said since. */
class Limits {
  print: number;
  travel: number;
  retract: number;
  jerk: number;
  jerkZ: number;
  jerkE: number;
  deviation: number;
  readonly acceleration: { x: number; y: number; z: number; e: number };
  readonly feed: { x: number; y: number; z: number; e: number };

  constructor(limits: MotionLimits) {
    this.print = limits.printAccelerationMmS2;
    this.travel = limits.travelAccelerationMmS2;
    this.retract = limits.retractAccelerationMmS2;
    this.jerk = limits.jerkMmS ?? 10;
    this.jerkZ = limits.jerkZMmS;
    this.jerkE = limits.jerkEMmS;
    this.deviation = limits.junctionDeviationMm ?? 0;
    this.acceleration = { ...limits.axisAccelerationMmS2 };
    this.feed = { ...limits.highestFeedMmS };
  }

  take(kind: number, value: number): void {
    if (!(value > 0)) return;
    switch (kind) {
      case EventKind.printAcceleration:
        this.print = value;
        return;
      case EventKind.travelAcceleration:
        this.travel = value;
        return;
      case EventKind.retractAcceleration:
        this.retract = value;
        return;
      case EventKind.jerkX:
        this.jerk = value;
        return;
      case EventKind.jerkZ:
        this.jerkZ = value;
        return;
      case EventKind.jerkE:
        this.jerkE = value;
        return;
      case EventKind.junctionDeviation:
        this.deviation = value;
        return;
      case EventKind.axisAccelerationX:
      case EventKind.axisAccelerationY:
      case EventKind.axisAccelerationZ:
      case EventKind.axisAccelerationE:
        this.acceleration[axes[kind - EventKind.axisAccelerationX]] = value;
        return;
      case EventKind.axisFeedX:
      case EventKind.axisFeedY:
      case EventKind.axisFeedZ:
      case EventKind.axisFeedE:
        this.feed[axes[kind - EventKind.axisFeedX]] = value;
    }
  }
}

/**
 * Seconds of every move, as a column beside the move table. Dwells count towards the move they stand before, those behind the last
 * towards that; heating waits and homing do not count (see `waits.ts`).
 *
 * @example
 * const { moves, events } = readProgram("G90\nG0 X100 F6000\n");
 * moveSeconds(moves, events, limitsFor(printer)).length; // 1
 */
export function moveSeconds(moves: MoveTable, events: EventTable | null, limits: MotionLimits): Float32Array {
  const { count, x, y, z, filamentMm, feedMmS, kind } = moves;
  const seconds = new Float32Array(count);
  const entry = new Float32Array(count + 1);
  const rest = new Float32Array(count);
  const cruise = new Float32Array(count);
  const acceleration = new Float32Array(count);
  const lengths = new Float32Array(count);
  const fromRest = new Uint8Array(count + 1).fill(1);
  const now = new Limits(limits);
  let nextEvent = 0;

  let lastX = 0;
  let lastY = 0;
  let lastZ = 0;
  /** Where the move goes, and where the one before it went. */
  let direction = { x: 0, y: 0, z: 0, e: 0 };
  let before = { x: 0, y: 0, z: 0, e: 0 };
  let lastCruise = 0;

  for (let i = 0; i < count; i++) {
    while (events && nextEvent < events.count && events.move[nextEvent] <= i) {
      if (events.kind[nextEvent] === EventKind.dwell) {
        seconds[i] += events.value[nextEvent];
        // Standing still is a stop.
        lastCruise = 0;
      } else now.take(events.kind[nextEvent], events.value[nextEvent]);
      nextEvent++;
    }
    const dx = x[i] - lastX;
    const dy = y[i] - lastY;
    const dz = z[i] - lastZ;
    lastX = x[i];
    lastY = y[i];
    lastZ = z[i];
    const k = kind[i];
    if (k === MoveKind.home) {
      lastCruise = 0;
      continue;
    }
    const distance = Math.sqrt(dx * dx + dy * dy + dz * dz);
    if (distance < 1e-6) {
      // Filament alone: it starts and ends at rest but for the extruder's own jerk.
      const length = Math.abs(filamentMm[i]);
      if (length > 1e-6) {
        const top = Math.max(SLOWEST_MM_S, Math.min(feedMmS[i], now.feed.e));
        const still = Math.min(top, now.jerkE / 2);
        seconds[i] += trapezoidSeconds(length, still, top, still, Math.min(now.retract, now.acceleration.e));
      }
      lastCruise = 0;
      continue;
    }
    direction.x = dx / distance;
    direction.y = dy / distance;
    direction.z = dz / distance;
    direction.e = filamentMm[i] / distance;
    const top = cruiseMmS(feedMmS[i], direction, now.feed);
    const a = withinAxes(k === MoveKind.travel ? now.travel : now.print, direction, now.acceleration);
    const still = restMmS(top, direction, now);
    lengths[i] = distance;
    cruise[i] = top;
    acceleration[i] = a;
    rest[i] = still;
    entry[i] = lastCruise === 0 ? still : cornerMmS(top < lastCruise ? top : lastCruise, a, before, direction, now);
    fromRest[i] = lastCruise === 0 ? 1 : 0;
    [before, direction] = [direction, before];
    lastCruise = top;
  }
  for (; events && nextEvent < events.count; nextEvent++) {
    if (events.kind[nextEvent] === EventKind.dwell && count > 0) seconds[count - 1] += events.value[nextEvent];
  }

  // Backwards: no move may enter faster than it can leave.
  for (let i = count - 1; i >= 0; i--) {
    if (lengths[i] === 0) continue;
    const exit = fromRest[i + 1] ? rest[i] : entry[i + 1];
    const reachable = Math.sqrt(exit * exit + 2 * acceleration[i] * lengths[i]);
    if (entry[i] > reachable) entry[i] = reachable;
  }
  // Forwards: no move may leave faster than it can get to, nor so fast that it could not stand at the end of what is planned.
  const ahead = Math.max(2, limits.lookAheadMoves) - 1;
  let windowEnd = 0;
  let windowSum = 0;
  for (let i = 0; i < count; i++) {
    if (lengths[i] === 0) continue;
    if (fromRest[i] || windowEnd <= i) {
      windowEnd = i + 1;
      windowSum = 0;
    } else windowSum -= acceleration[i] * lengths[i];
    while (windowEnd < count && windowEnd <= i + ahead && !fromRest[windowEnd]) {
      windowSum += acceleration[windowEnd] * lengths[windowEnd];
      windowEnd++;
    }
    let exit = rest[i];
    if (!fromRest[i + 1]) {
      exit = entry[i + 1];
      const reachable = Math.sqrt(entry[i] * entry[i] + 2 * acceleration[i] * lengths[i]);
      if (exit > reachable) exit = reachable;
      const still = rest[windowEnd - 1];
      const planned = Math.sqrt(still * still + 2 * Math.max(0, windowSum));
      if (exit > planned) exit = planned;
      entry[i + 1] = exit;
    }
    seconds[i] += trapezoidSeconds(lengths[i], entry[i], cruise[i], exit, acceleration[i]);
  }
  return seconds;
}
