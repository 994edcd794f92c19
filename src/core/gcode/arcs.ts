/**
 * Arcs of G2 and G3 in their plane; x and y stand for the plane's first and second axis. Semantics after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556), section 3.5.3:
 * I and J are relative to the start; a positive R gives the arc of at most 180°, a negative one the longer; equal start
 * and end with I, J is a full circle.
 */

/** How far a chord may run from its arc, mm. Finer than any printer can place. */
const CHORD_TOLERANCE_MM = 0.005;

export interface Arc {
  centreX: number;
  centreY: number;
  radiusMm: number;
  startAngle: number;
  /** Signed, radians: positive counter-clockwise. */
  sweep: number;
}

/** The arc given by its centre offset, or null if the offset is zero. */
export function arcFromCentre(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  i: number,
  j: number,
  clockwise: boolean,
): Arc | null {
  const radiusMm = Math.hypot(i, j);
  if (!(radiusMm > 0)) return null;
  const centreX = x0 + i;
  const centreY = y0 + j;
  const startAngle = Math.atan2(y0 - centreY, x0 - centreX);
  let sweep = Math.atan2(y1 - centreY, x1 - centreX) - startAngle;
  const closed = Math.hypot(x1 - x0, y1 - y0) < 1e-6;
  if (clockwise) {
    while (sweep >= 0) sweep -= 2 * Math.PI;
    if (closed) sweep = -2 * Math.PI;
  } else {
    while (sweep <= 0) sweep += 2 * Math.PI;
    if (closed) sweep = 2 * Math.PI;
  }
  return { centreX, centreY, radiusMm, startAngle, sweep };
}

/** The arc given by its radius, or null if start and end are one point or farther apart than the circle is wide. */
export function arcFromRadius(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  radius: number,
  clockwise: boolean,
): Arc | null {
  const chord = Math.hypot(x1 - x0, y1 - y0);
  const radiusMm = Math.abs(radius);
  if (chord < 1e-9 || chord > 2 * radiusMm * 1.001) return null;
  const rise = Math.sqrt(Math.max(0, radiusMm * radiusMm - (chord * chord) / 4));
  // The centre lies left of the chord for a short counter-clockwise arc, right of it for a short clockwise one.
  const side = clockwise === radius > 0 ? -1 : 1;
  const centreX = (x0 + x1) / 2 - (side * rise * (y1 - y0)) / chord;
  const centreY = (y0 + y1) / 2 + (side * rise * (x1 - x0)) / chord;
  return arcFromCentre(x0, y0, x1, y1, centreX - x0, centreY - y0, clockwise);
}

/** How many chords stand for the arc. */
export function arcSegments(arc: Arc): number {
  const step = 2 * Math.acos(Math.max(0, 1 - CHORD_TOLERANCE_MM / Math.max(arc.radiusMm, CHORD_TOLERANCE_MM)));
  return Math.min(2000, Math.max(2, Math.ceil(Math.abs(arc.sweep) / Math.max(step, 1e-3))));
}
