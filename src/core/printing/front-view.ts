/**
 * The piece seen from the front, worked out from its own slices: for every layer, which stretches of X are covered and how far
 * back the nearest surface stands. Equal stretches of neighbouring layers are one rectangle.
 */
import { Section, Slice } from "./slices";

/**
 * Rectangles, six figures each: from X, to X, from Z, to Z (mm), depth (mm behind the front of the piece), and 1 where it is
 * raised from the face beside it, as digits are.
 */
export type FrontView = Float32Array;
export const FRONT_VIEW_STRIDE = 6;

interface Stretch {
  from: number;
  to: number;
  depthMm: number;
  /** The surface is level there, as a face or a digit is. */
  flat: boolean;
  raised: boolean;
}

const SAME_MM = 0.02;
/** How far a digit may stand before its face. */
const RELIEF_MM = { least: 0.25, most: 1 };
const kept = new WeakMap<Section, Stretch[]>();

/** What a cut shows from the front: stretches of X with the smallest Y of the outline there. */
function stretchesOf(section: Section): Stretch[] {
  const known = kept.get(section);
  if (known) return known;
  const edges: { x0: number; y0: number; x1: number; y1: number }[] = [];
  const stops: number[] = [];
  for (const { region } of section.islands) {
    for (const ring of region) {
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [a, b] = ring[j].x <= ring[i].x ? [ring[j], ring[i]] : [ring[i], ring[j]];
        stops.push(ring[i].x);
        if (b.x - a.x > 1e-6) edges.push({ x0: a.x, y0: a.y, x1: b.x, y1: b.y });
      }
    }
  }
  stops.sort((a, b) => a - b);
  const stretches: Stretch[] = [];
  for (let i = 1; i < stops.length; i++) {
    const from = stops[i - 1];
    const to = stops[i];
    if (to - from < SAME_MM) continue;
    const middle = (from + to) / 2;
    let nearest = Infinity;
    let flat = false;
    for (const { x0, y0, x1, y1 } of edges) {
      if (x0 > middle || x1 < middle) continue;
      const y = y0 + ((y1 - y0) * (middle - x0)) / (x1 - x0);
      if (y >= nearest) continue;
      nearest = y;
      flat = Math.abs(y1 - y0) < 0.01;
    }
    if (nearest === Infinity) continue;
    const last = stretches[stretches.length - 1];
    // Round shapes get steps of half a millimetre: finer shading than anybody sees.
    const depthMm = Math.round(nearest * 2) / 2;
    if (last && Math.abs(last.to - from) < SAME_MM && last.depthMm === depthMm) last.to = to;
    else stretches.push({ from, to, depthMm, flat, raised: false });
  }
  markRaised(stretches);
  kept.set(section, stretches);
  return stretches;
}

/** A stretch is raised if a face lies the depth of a relief behind it on both sides. */
function markRaised(stretches: Stretch[]): void {
  const lies = (face: Stretch | undefined, stretch: Stretch) => {
    if (!face?.flat || !stretch.flat) return false;
    const touches = Math.abs(face.to - stretch.from) < SAME_MM || Math.abs(stretch.to - face.from) < SAME_MM;
    const relief = face.depthMm - stretch.depthMm;
    return touches && relief >= RELIEF_MM.least && relief <= RELIEF_MM.most;
  };
  stretches.forEach((stretch, i) => {
    stretch.raised = lies(stretches[i - 1], stretch) && lies(stretches[i + 1], stretch);
  });
}

/** The whole piece, bottom first. X as in the slices (0 is the middle), depth measured from the foremost surface. */
export function frontView(slices: readonly Slice[]): FrontView {
  const figures: number[] = [];
  const open = new Map<string, { stretch: Stretch; fromZ: number }>();
  let foremost = Infinity;
  for (const { drawn } of slices) for (const { depthMm } of stretchesOf(drawn)) foremost = Math.min(foremost, depthMm);
  const close = (key: string, toZ: number) => {
    const { stretch, fromZ } = open.get(key)!;
    figures.push(stretch.from, stretch.to, fromZ, toZ, stretch.depthMm - foremost, stretch.raised ? 1 : 0);
    open.delete(key);
  };
  let lastTop = 0;
  for (const { drawn, zTopMm, heightMm } of slices) {
    const keys = new Set<string>();
    for (const stretch of stretchesOf(drawn)) {
      const key = `${stretch.from.toFixed(2)},${stretch.to.toFixed(2)},${stretch.depthMm},${stretch.raised}`;
      keys.add(key);
      if (!open.has(key)) open.set(key, { stretch, fromZ: zTopMm - heightMm });
    }
    for (const key of [...open.keys()]) if (!keys.has(key)) close(key, zTopMm - heightMm);
    lastTop = zTopMm;
  }
  for (const key of [...open.keys()]) close(key, lastTop);
  return Float32Array.from(figures);
}
