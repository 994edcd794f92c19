/** What a band shows from the front: its faces, the air between them, what spans it, what hangs out, and where it ends. */
import { FRONT_VIEW_STRIDE, FrontView } from "../../printing/front-view";

export interface Face {
  fromX: number;
  toX: number;
  fromZ: number;
  toZ: number;
  depthMm: number;
  /** Digits and the like. */
  raised: boolean;
}

export interface Part {
  fromMm: number;
  toMm: number;
  faces: Face[];
  /** Air between two standing parts, at heights where strings would hang. */
  gaps: { fromX: number; toX: number; z: number }[];
  /** Undersides over air, held at both ends. */
  spans: { fromX: number; toX: number; z: number }[];
  /** Where a layer hangs out over the one below; the side it hangs to. */
  lips: { x: number; z: number; side: 1 | -1 }[];
  /** Outer ends of standing parts, and the side that is outside. */
  edges: { x: number; side: 1 | -1 }[];
  rippleMm: number;
}

const GAP_MM = { least: 2, most: 80 };
const SPAN_LEAST_MM = 4;
const JUST_BELOW_MM = 0.03;
const SAME_MM = 0.05;
/** Strings are drawn at so many heights of a band. */
const HEIGHTS = 4;

export function facesOf(front: FrontView): Face[] {
  return Array.from({ length: front.length / FRONT_VIEW_STRIDE }, (_, i) => {
    const at = i * FRONT_VIEW_STRIDE;
    const [fromX, toX, fromZ, toZ, depthMm, raised] = front.subarray(at, at + FRONT_VIEW_STRIDE);
    return { fromX, toX, fromZ, toZ, depthMm, raised: raised === 1 };
  });
}

/** The part of the piece between two heights; `all` are the faces of the whole piece. */
export function partOf(all: readonly Face[], fromMm: number, toMm: number, rippleMm: number): Part {
  const faces = all
    .filter(({ fromZ, toZ }) => toZ > fromMm && fromZ < toMm)
    .map((face) => ({ ...face, fromZ: Math.max(face.fromZ, fromMm), toZ: Math.min(face.toZ, toMm) }));
  const part: Part = { fromMm, toMm, faces, gaps: [], spans: [], lips: [], edges: [], rippleMm };
  for (let i = 0; i < HEIGHTS; i++) {
    const z = fromMm + ((i + 0.5) / HEIGHTS) * (toMm - fromMm);
    const standing = coveredAt(faces, z);
    standing.slice(1).forEach(([toX], at) => {
      const fromX = standing[at][1];
      if (toX - fromX >= GAP_MM.least && toX - fromX <= GAP_MM.most) part.gaps.push({ fromX, toX, z });
    });
    if (i === 0) for (const [from, to] of standing) part.edges.push({ x: from, side: -1 }, { x: to, side: 1 });
  }
  for (const z of new Set(faces.map(({ fromZ }) => fromZ))) if (z > fromMm + JUST_BELOW_MM) addUndersides(part, all, z);
  return part;
}

/** What begins at a height over air: held at both ends it spans, at one it hangs out. */
function addUndersides(part: Part, all: readonly Face[], z: number): void {
  const below = coveredAt(all, z - JUST_BELOW_MM);
  for (const [from, to] of coveredAt(all, z + JUST_BELOW_MM)) {
    let x = from;
    for (const [low, high] of [...below.filter(([a, b]) => b > from && a < to), [to, Infinity]]) {
      const end = Math.min(low, to);
      if (end - x > SAME_MM) {
        const isHeldLeft = x > from + SAME_MM;
        const isHeldRight = end < to - SAME_MM;
        if (isHeldLeft && isHeldRight && end - x >= SPAN_LEAST_MM) part.spans.push({ fromX: x, toX: end, z });
        else if (isHeldLeft !== isHeldRight) part.lips.push({ x: isHeldLeft ? end : x, z, side: isHeldLeft ? 1 : -1 });
      }
      x = Math.max(x, high);
    }
  }
}

/** Stretches of X that are covered at a height, from left to right. */
function coveredAt(faces: readonly Face[], z: number): [number, number][] {
  const covered: [number, number][] = [];
  const own = faces.filter(({ fromZ, toZ }) => fromZ <= z && toZ >= z).sort((a, b) => a.fromX - b.fromX);
  for (const { fromX, toX } of own) {
    const last = covered[covered.length - 1];
    if (last && fromX <= last[1] + SAME_MM) last[1] = Math.max(last[1], toX);
    else covered.push([fromX, toX]);
  }
  return covered;
}
