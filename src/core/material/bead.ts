/** What a bead of material holds. All formulas: plain geometry. */

/** Cross-section of filament of `diameterMm`, mm²: π·d²/4. */
export function filamentAreaMm2(diameterMm: number): number {
  return (Math.PI * diameterMm * diameterMm) / 4;
}

/** Thickness of the filament where nobody says it, mm: common practice, no source. */
export const USUAL_FILAMENT_MM = 1.75;
/** Its cross-section, mm². */
export const USUAL_FILAMENT_MM2 = filamentAreaMm2(USUAL_FILAMENT_MM);

/**
 * Cross-section of a bead with round sides, mm²: (w − h)·h + π·h²/4 for a width `w` of at least the height `h`.
 * A narrower bead is taken as round.
 *
 * @example
 * beadAreaMm2(0.45, 0.2).toFixed(4); // "0.0814"
 */
export function beadAreaMm2(widthMm: number, heightMm: number): number {
  if (widthMm <= heightMm) return strandAreaMm2(widthMm);
  return (widthMm - heightMm) * heightMm + (Math.PI * heightMm * heightMm) / 4;
}

/** Width of the bead of a cross-section in a layer of height `h`, mm: `beadAreaMm2` solved for the width; round where it is less than the layer is high. */
export function beadWidthMm(areaMm2: number, heightMm: number): number {
  const roundMm = Math.sqrt((4 * areaMm2) / Math.PI);
  return roundMm <= heightMm ? roundMm : areaMm2 / heightMm + heightMm * (1 - Math.PI / 4);
}

/** Cross-section of a strand over air, mm²: round, π·w²/4. */
export function strandAreaMm2(widthMm: number): number {
  return (Math.PI * widthMm * widthMm) / 4;
}

/** Distance between neighbouring beads at which they fill a layer without gaps or excess, mm: area / height. */
export function beadSpacingMm(widthMm: number, heightMm: number): number {
  return beadAreaMm2(widthMm, heightMm) / heightMm;
}

/**
 * Mass of `filamentMm` of filament, g; density in g/cm³.
 *
 * @example
 * filamentMassG(1000, 1.75, 1.24).toFixed(2); // "2.98"
 */
export function filamentMassG(filamentMm: number, diameterMm: number, densityGCm3: number): number {
  return (filamentMm * filamentAreaMm2(diameterMm) * densityGCm3) / 1000;
}
