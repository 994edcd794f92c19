/**
 * Layers ↔ heights: z(n) = h1 + (n − 1)·h for layer n counted from 1; a layer occupies (z(n−1), z(n)]. Indexes here count
 * from 0. All comparisons in whole micrometres, so that 0.1 + 0.2 never moves an edge by a layer.
 */
import { HEIGHT_TOLERANCE_MM, roundTo } from "../units";

/** Heights of the layer tops, mm, bottom first. */
export type LayerTops = ArrayLike<number>;

/** Height of the top of layer `index` (from 0), mm. */
export function layerTopMm(index: number, firstLayerHeightMm: number, layerHeightMm: number): number {
  return roundTo(firstLayerHeightMm + index * layerHeightMm, 6);
}

/** How many layers a piece of `heightMm` has: a last layer that lies only partly in it counts. */
export function layerCountFor(heightMm: number, firstLayerHeightMm: number, layerHeightMm: number): number {
  return Math.max(1, Math.ceil((heightMm - firstLayerHeightMm) / layerHeightMm - HEIGHT_TOLERANCE_MM) + 1);
}

/** The tops of all layers of a piece, mm. */
export function layerTops(heightMm: number, firstLayerHeightMm: number, layerHeightMm: number): Float64Array {
  const count = layerCountFor(heightMm, firstLayerHeightMm, layerHeightMm);
  return Float64Array.from({ length: count }, (_, index) => layerTopMm(index, firstLayerHeightMm, layerHeightMm));
}

/** Index of the first layer that lies wholly or partly above `heightMm`; `tops.length` if none does. Tops must rise. */
export function firstLayerAbove(tops: LayerTops, heightMm: number): number {
  let low = 0;
  let high = tops.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (tops[middle] > heightMm + HEIGHT_TOLERANCE_MM) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Where the layer begins, mm: the top of the one below it, or the bed. */
export function layerBottomMm(tops: LayerTops, index: number): number {
  return index <= 0 ? 0 : tops[Math.min(index, tops.length) - 1];
}
