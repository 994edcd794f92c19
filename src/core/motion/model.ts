/**
 * How a printer's motion plans one move after the other: what limits a move, and how fast the corner before it may be taken. The time
 * of a program and the simulated printer's clock both come from here. Common practice, no source, but for the cornering formulas
 * (see `cornering.ts`).
 */
import { deviationSpeedMmS } from "./cornering";

/** A figure for X, Y, Z and the extruder. */
export interface AxisFigures {
  x: number;
  y: number;
  z: number;
  e: number;
}

/** What the machine can do. Values that a program sets itself (M201, M203, M204, M205 …) replace these as it runs. */
export interface MotionLimits {
  printAccelerationMmS2: number;
  travelAccelerationMmS2: number;
  retractAccelerationMmS2: number;
  /** No move takes an axis beyond these. */
  axisAccelerationMmS2: AxisFigures;
  highestFeedMmS: AxisFigures;
  /** The larger step in speed of X and Y a corner may have; used when no deviation is given. */
  jerkMmS?: number;
  junctionDeviationMm?: number;
  /** Step in speed the Z axis and the extruder may have. */
  jerkZMmS: number;
  jerkEMmS: number;
  /** How many moves the firmware plans ahead, the one under way included: at the end of them it must be able to stand. */
  lookAheadMoves: number;
}

/** Slower than this no firmware plans, mm/s. */
export const SLOWEST_MM_S = 0.05;

/**
 * Where a move goes: shares of its length along X, Y and Z, and filament per mm of length (`e`). The loops over all moves fill one again and
 * again.
 */
export type Direction = AxisFigures;

/** What holds a corner back. */
export interface CornerLimits {
  /** Steps in speed that X and Y, Z, and the extruder may have, mm/s. */
  jerk: number;
  jerkZ: number;
  jerkE: number;
  /** Junction deviation, mm; it counts instead of jerk where it is above 0. */
  deviation: number;
}

/** A speed (mm/s) or an acceleration (mm/s²) along a move, lowered until no axis exceeds its own. */
export function withinAxes(along: number, { x, y, z, e }: Readonly<Direction>, highest: Readonly<AxisFigures>): number {
  let held = along;
  const ax = x < 0 ? -x : x;
  const ay = y < 0 ? -y : y;
  const az = z < 0 ? -z : z;
  const ae = e < 0 ? -e : e;
  if (ax * held > highest.x) held = highest.x / ax;
  if (ay * held > highest.y) held = highest.y / ay;
  if (az * held > highest.z) held = highest.z / az;
  if (ae * held > highest.e) held = highest.e / ae;
  return held;
}

/** The speed a move of `feedMmS` cruises at: no axis faster than it may be, mm/s. */
export function cruiseMmS(feedMmS: number, direction: Readonly<Direction>, highest: Readonly<AxisFigures>): number {
  const top = withinAxes(feedMmS, direction, highest);
  return top > SLOWEST_MM_S ? top : SLOWEST_MM_S;
}

/** Speed from which a move may start, and to which it may end, at a standstill, mm/s. */
export function restMmS(
  cruise: number,
  { z }: Readonly<Direction>,
  { jerk, jerkZ, deviation }: Readonly<CornerLimits>,
): number {
  if (deviation > 0) return 0;
  const steep = z > 0.5 || z < -0.5;
  const rest = steep ? jerkZ : jerk / 2;
  return rest < cruise ? rest : cruise;
}

/**
 * The speed at which the corner between two moves may be taken, mm/s.
 *
 * @param slower the slower of the two cruising speeds @param a acceleration of the move behind it, mm/s²
 */
export function cornerMmS(
  slower: number,
  a: number,
  before: Readonly<Direction>,
  behind: Readonly<Direction>,
  { jerk, jerkZ, jerkE, deviation }: Readonly<CornerLimits>,
): number {
  if (deviation > 0) {
    const turned = deviationSpeedMmS(behind.x * before.x + behind.y * before.y + behind.z * before.z, a, deviation);
    return turned < slower ? turned : slower;
  }
  let corner = slower;
  const jumpX = Math.abs(behind.x - before.x);
  const jumpY = Math.abs(behind.y - before.y);
  const jumpZ = Math.abs(behind.z - before.z);
  const jumpE = Math.abs(behind.e - before.e);
  if (jumpX * corner > jerk) corner = jerk / jumpX;
  if (jumpY * corner > jerk) corner = jerk / jumpY;
  if (jumpZ * corner > jerkZ) corner = jerkZ / jumpZ;
  if (jumpE * corner > jerkE) corner = jerkE / jumpE;
  return corner;
}
