/** How fast a corner may be taken. */

/**
 * Junction deviation: v² = a·δ·sin(θ/2) / (1 − sin(θ/2)), θ the angle between the two directions (π = straight on).
 * Source: a cornering note for open motion firmware, 2011 (from memory).
 *
 * @param cosine cosine of the angle between the incoming and the outgoing direction of travel (1 = straight on)
 * @returns mm/s; Infinity for straight on, 0 for a turn back
 *
 * @example
 * deviationSpeedMmS(0, 1000, 0.02).toFixed(2); // "6.95"
 */
export function deviationSpeedMmS(cosine: number, accelerationMmS2: number, deviationMm: number): number {
  // θ is measured between the path's two legs, so straight on (cosine 1) is θ = π and sin(θ/2) = 1.
  const sineHalf = Math.sqrt(Math.max(0, (1 + cosine) / 2));
  if (sineHalf > 0.999999) return Infinity;
  return Math.sqrt((accelerationMmS2 * deviationMm * sineHalf) / (1 - sineHalf));
}

/** The junction deviation that corners about as fast as a jerk: δ ≈ 0.4·j²/a. Common practice, no source. */
export function deviationForJerkMm(jerkMmS: number, accelerationMmS2: number): number {
  return (0.4 * jerkMmS * jerkMmS) / accelerationMmS2;
}

/** The jerk that corners about as fast as a junction deviation; the inverse of `deviationForJerkMm`. */
export function jerkForDeviationMmS(deviationMm: number, accelerationMmS2: number): number {
  return Math.sqrt((deviationMm * accelerationMmS2) / 0.4);
}
