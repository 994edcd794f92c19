/** One straight move: accelerate, cruise, brake. */

/**
 * Seconds for `lengthMm` from `entryMmS` over at most `cruiseMmS` to `exitMmS` at `accelerationMmS2`: a trapezoid, or a
 * triangle when the move is too short to reach the cruise speed. Entry and exit must be reachable from one another.
 * Arithmetic: v² = v0² + 2·a·s.
 *
 * @example
 * // 100 mm at 100 mm/s, from rest to rest at 1000 mm/s²: 0.1 s to speed up, 0.1 s to slow down, 90 mm between.
 * trapezoidSeconds(100, 0, 100, 0, 1000).toFixed(6); // "1.100000"
 */
export function trapezoidSeconds(
  lengthMm: number,
  entryMmS: number,
  cruiseMmS: number,
  exitMmS: number,
  accelerationMmS2: number,
): number {
  const a = accelerationMmS2;
  const speedUpMm = (cruiseMmS * cruiseMmS - entryMmS * entryMmS) / (2 * a);
  const slowDownMm = (cruiseMmS * cruiseMmS - exitMmS * exitMmS) / (2 * a);
  const cruiseMm = lengthMm - speedUpMm - slowDownMm;
  if (cruiseMm >= 0) {
    return (2 * cruiseMmS - entryMmS - exitMmS) / a + cruiseMm / cruiseMmS;
  }
  const peak = Math.sqrt(Math.max(0, a * lengthMm + (entryMmS * entryMmS + exitMmS * exitMmS) / 2));
  const top = Math.max(peak, entryMmS, exitMmS);
  return (2 * top - entryMmS - exitMmS) / a;
}

/** The fastest a move from rest to rest over `lengthMm` becomes: half the way speeds up, half slows down. Arithmetic: v² = a·s, mm/s. */
export function peakMmS(lengthMm: number, accelerationMmS2: number): number {
  return Math.sqrt(accelerationMmS2 * lengthMm);
}
