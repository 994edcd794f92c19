/**
 * Home offset (M206): its figures are **added to the position at the endstop** when the axes are referenced. Behind G28 an axis
 * counts itself at `endstop + home offset`, and every later position from there. So with a larger figure a print comes to lie
 * further towards the endstop by as much, as it would with that figure in a G92 behind G28. Common practice, no source.
 *
 * Everything that must know a sign takes it from these two functions: reading, the measured bed centre, the simulated printer.
 */

/** What an axis counts itself at once it has been homed, mm. */
export function countedAfterHomingMm(endstopMm: number, homeOffsetMm: number): number {
  return endstopMm + homeOffsetMm;
}

/**
 * The home offset with which the nozzle really stands where it is sent, mm.
 *
 * Sent to c it stands at c + d. At the endstop it counted itself `endstop + old` and so stood at `endstop + old + d`: that is what
 * it must count itself at instead, and `countedAfterHomingMm(endstop, old + d)` says so.
 *
 * @param standsOffMm d, from where it was sent to where it really stands
 *
 * @example
 * homeOffsetFor(0.2, -0.05).toFixed(2); // "0.15"
 */
export function homeOffsetFor(oldOffsetMm: number, standsOffMm: number): number {
  return oldOffsetMm + standsOffMm;
}
