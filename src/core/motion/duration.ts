/**
 * How long a program really takes: look-ahead over all moves with acceleration and cornering, dwells included. Estimates
 * without acceleration are wrong by tens of percent on small parts (common practice, no source).
 */
import { EventKind, EventTable, MoveKind, MoveTable } from "../gcode/moves";
import { deviationSpeedMmS } from "./cornering";
import { trapezoidSeconds } from "./trapezoid";

/** What the machine can do. Values that a program sets itself (M204, M205 …) replace these as it runs. */
export interface MotionLimits {
  printAccelerationMmS2: number;
  travelAccelerationMmS2: number;
  retractAccelerationMmS2: number;
  /** The larger axis step in speed a corner may have; used when no deviation is given. */
  jerkMmS?: number;
  junctionDeviationMm?: number;
  /** Step in speed the Z axis and the extruder may have. */
  jerkZMmS: number;
  jerkEMmS: number;
  highestFeedMmS: { x: number; y: number; z: number; e: number };
}

/**
 * Seconds of every move, as a column beside the move table. Dwells count towards the move they stand before; heating
 * waits and homing do not count.
 */
export function moveSeconds(moves: MoveTable, events: EventTable | null, limits: MotionLimits): Float32Array {
  const { count, x, y, z, filamentMm, feedMmS, kind } = moves;
  const seconds = new Float32Array(count);
  const entry = new Float32Array(count + 1);
  const cruise = new Float32Array(count);
  const acceleration = new Float32Array(count);
  const lengths = new Float32Array(count);
  const highest = limits.highestFeedMmS;

  let printAcceleration = limits.printAccelerationMmS2;
  let travelAcceleration = limits.travelAccelerationMmS2;
  let retractAcceleration = limits.retractAccelerationMmS2;
  let jerk = limits.jerkMmS ?? 10;
  let deviation = limits.junctionDeviationMm ?? 0;
  let nextEvent = 0;

  let lastX = 0;
  let lastY = 0;
  let lastZ = 0;
  let directionX = 0;
  let directionY = 0;
  let directionZ = 0;
  let lastCruise = 0;
  let lastTravels = false;

  for (let i = 0; i < count; i++) {
    while (events && nextEvent < events.count && events.move[nextEvent] <= i) {
      const value = events.value[nextEvent];
      switch (events.kind[nextEvent]) {
        case EventKind.dwell:
          seconds[i] += value;
          break;
        case EventKind.printAcceleration:
          if (value > 0) printAcceleration = value;
          break;
        case EventKind.travelAcceleration:
          if (value > 0) travelAcceleration = value;
          break;
        case EventKind.retractAcceleration:
          if (value > 0) retractAcceleration = value;
          break;
        case EventKind.jerkX:
          if (value > 0) jerk = value;
          break;
        case EventKind.junctionDeviation:
          if (value > 0) deviation = value;
          break;
      }
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
      lastTravels = false;
      continue;
    }
    const distance = Math.sqrt(dx * dx + dy * dy + dz * dz);
    const feed = feedMmS[i];
    if (distance < 1e-6) {
      // Filament alone: it starts and ends at rest but for the extruder's own jerk.
      const length = Math.abs(filamentMm[i]);
      if (length > 1e-6) {
        const top = Math.max(0.1, Math.min(feed, highest.e));
        const rest = Math.min(top, limits.jerkEMmS / 2);
        seconds[i] += trapezoidSeconds(length, rest, top, rest, retractAcceleration);
      }
      lastCruise = 0;
      lastTravels = false;
      continue;
    }
    const ux = dx / distance;
    const uy = dy / distance;
    const uz = dz / distance;
    let top = feed;
    const ax = Math.abs(ux);
    const ay = Math.abs(uy);
    const az = Math.abs(uz);
    if (ax * top > highest.x) top = highest.x / ax;
    if (ay * top > highest.y) top = highest.y / ay;
    if (az * top > highest.z) top = highest.z / az;
    if (!(top > 0.05)) top = 0.05;
    const travels = k === MoveKind.travel;
    const a = travels ? travelAcceleration : printAcceleration;
    lengths[i] = distance;
    cruise[i] = top;
    acceleration[i] = a;

    // The corner between the move before and this one.
    let corner: number;
    if (lastCruise === 0) {
      corner = Math.min(top, deviation > 0 ? 0 : az > 0.5 ? limits.jerkZMmS : jerk / 2);
    } else {
      const slower = Math.min(top, lastCruise);
      if (deviation > 0) {
        corner = Math.min(slower, deviationSpeedMmS(ux * directionX + uy * directionY + uz * directionZ, a, deviation));
      } else {
        const jumpX = Math.abs(ux - directionX);
        const jumpY = Math.abs(uy - directionY);
        const jumpZ = Math.abs(uz - directionZ);
        corner = slower;
        if (jumpX * corner > jerk) corner = jerk / jumpX;
        if (jumpY * corner > jerk) corner = jerk / jumpY;
        if (jumpZ * corner > limits.jerkZMmS) corner = limits.jerkZMmS / jumpZ;
      }
      // Between laying and travelling the extruder stops dead.
      if (travels !== lastTravels) corner = Math.min(corner, jerk);
    }
    entry[i] = corner;
    directionX = ux;
    directionY = uy;
    directionZ = uz;
    lastCruise = top;
    lastTravels = travels;
  }

  // Backwards: no move may enter faster than it can leave. A row without length is a stop.
  let next = 0;
  for (let i = count - 1; i >= 0; i--) {
    if (lengths[i] === 0) {
      next = 0;
      entry[i] = 0;
      continue;
    }
    const reachable = Math.sqrt(next * next + 2 * acceleration[i] * lengths[i]);
    if (entry[i] > reachable) entry[i] = reachable;
    next = entry[i];
  }
  // Forwards: no move may leave faster than it can get to.
  for (let i = 0; i < count; i++) {
    if (lengths[i] === 0) continue;
    const leave = i + 1 < count ? entry[i + 1] : 0;
    const reachable = Math.sqrt(entry[i] * entry[i] + 2 * acceleration[i] * lengths[i]);
    const exit = leave > reachable ? reachable : leave;
    if (i + 1 < count && lengths[i + 1] > 0) entry[i + 1] = exit;
    seconds[i] += trapezoidSeconds(lengths[i], entry[i], cruise[i], exit, acceleration[i]);
  }
  return seconds;
}
