/** How fast the frame swings, from how far apart its ripples lie: f = v / s, for the nozzle goes one ripple on in one swing. */
import { plainNumber } from "../units";

export interface Resonance {
  hz: number;
  /** Standard error of the mean, Hz; null from one reading alone. */
  errorHz: number | null;
  why: string;
}

export interface Ripple {
  speedMmS: number;
  spacingMm: number;
}

/** Mean of v / s over all ripples that were measured; null without any. */
export function resonanceOf(ripples: readonly Ripple[]): Resonance | null {
  const all = ripples.filter(({ speedMmS, spacingMm }) => speedMmS > 0 && spacingMm > 0);
  if (all.length === 0) return null;
  const swings = all.map(({ speedMmS, spacingMm }) => speedMmS / spacingMm);
  const hz = swings.reduce((sum, one) => sum + one, 0) / swings.length;
  const squares = swings.reduce((sum, one) => sum + (one - hz) ** 2, 0);
  const errorHz = swings.length > 1 ? Math.sqrt(squares / (swings.length - 1) / swings.length) : null;
  const mean = all.reduce((sum, { spacingMm }) => sum + spacingMm, 0) / all.length;
  const within = errorHz === null ? "" : ` ± ${plainNumber(2 * errorHz, 1)}`;
  return {
    hz,
    errorHz,
    why: `Ripples ${plainNumber(mean, 2)} mm apart at ${plainNumber(all[0].speedMmS)} mm/s: the frame swings ${plainNumber(hz, 1)}${within} times a second (Hz).`,
  };
}
