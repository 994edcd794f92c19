/** How wide the single tracks are: known to their kind too, which holds what is measured against it. */
import { roundTo } from "../units";

/** Widths of the tracks, mm: from narrow to wide in even steps. */
export function trackWidthsMm(count: number, narrowMm: number, wideMm: number): number[] {
  if (count <= 1) return count === 1 ? [narrowMm] : [];
  return Array.from({ length: count }, (_, i) => roundTo(narrowMm + ((wideMm - narrowMm) * i) / (count - 1), 2));
}
