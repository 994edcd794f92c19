/** What stacked specimens share: which band a height lies in, a base with an arrow to the front, and a drawing in text. */
import { rectangle, Ring } from "../geometry/polygons";
import { bandEdgesMm, HeightPlan, planHeightMm } from "../heightplan/plan";

export interface Storey {
  /** From 0. */
  index: number;
  floorMm: number;
  heightMm: number;
  /** Height above the storey's floor, mm. */
  aboveMm: number;
}

export interface Storeys {
  heightMm: number;
  /** Lower edge of each band and the end of the last. */
  edgesMm: number[];
  /** The band at a height, `base` below the first, null outside the piece. */
  at(zMm: number): Storey | "base" | null;
}

export function storeysOf(plan: HeightPlan): Storeys {
  const heightMm = planHeightMm(plan);
  const edgesMm = bandEdgesMm(plan);
  return {
    heightMm,
    edgesMm,
    at(zMm) {
      if (zMm <= 0 || zMm > heightMm + 1e-9) return null;
      if (zMm <= edgesMm[0]) return "base";
      let index = 0;
      while (index + 1 < plan.bands.length && zMm > edgesMm[index + 1]) index++;
      const floorMm = edgesMm[index];
      return { index, floorMm, heightMm: plan.bands[index].heightMm, aboveMm: zMm - floorMm };
    },
  };
}

const ARROW_MM = 3;

/** A plate with an arrow on its front edge; the arrow reaches 3 mm out. */
export function baseWithArrow(
  minX: number,
  minY: number,
  maxX: number,
  maxY: number,
  arrowX = (minX + maxX) / 2,
): Ring[] {
  return [
    rectangle(minX, minY, maxX, maxY),
    [
      { x: arrowX - ARROW_MM, y: minY + 0.01 },
      { x: arrowX, y: minY - ARROW_MM },
      { x: arrowX + ARROW_MM, y: minY + 0.01 },
    ],
  ];
}

const SIDE_ARROW = "   base; the arrow points to the front";

/** The piece in text, top first; `right` is drawn behind the face of every storey. */
export function storeyDrawing(labels: readonly string[], right = ""): string[] {
  const width = Math.max(8, ...labels.map(({ length }) => length + 2));
  const edge = `  +${"-".repeat(width)}+`;
  const lines = [edge];
  for (let index = labels.length - 1; index >= 0; index--) {
    lines.push(`  |${labels[index].padStart(width - 1)} |${right}   band ${index + 1}`);
  }
  const half = "=".repeat(Math.floor(width / 2) - 1);
  return [...lines, `  '${half}\\/${half}'${SIDE_ARROW}`];
}
