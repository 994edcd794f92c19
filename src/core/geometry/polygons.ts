/**
 * Flat shapes. A ring is a closed list of points; a region is a list of rings: outlines run counter-clockwise, holes
 * clockwise. All in mm. Booleans and offsets by clipper-lib on whole tenths of a micrometre.
 */
import ClipperLib, { IntPoint, Path, Paths } from "clipper-lib";

export interface Point {
  x: number;
  y: number;
}
export type Ring = Point[];
export type Region = Ring[];

const SCALE = 10_000;
const { ClipType, PolyType, PolyFillType, JoinType, EndType } = ClipperLib;

function toPath(ring: Ring): Path {
  return ring.map(({ x, y }) => ({ X: Math.round(x * SCALE), Y: Math.round(y * SCALE) }));
}

function fromPath(path: IntPoint[]): Ring {
  return path.map(({ X, Y }) => ({ x: X / SCALE, y: Y / SCALE }));
}

const NOTHING: Region = [];
/** Answers by the very regions they were asked with, which nobody changes: two in three of a build are asked again. They go with their regions. */
const keptClips = new Map<number, WeakMap<Region, WeakMap<Region, Region>>>();
const keptOffsets = new WeakMap<Region, Map<string, Region[]>>();

/** What a map holds for a key, made where it holds nothing. */
function kept<K, V>(map: { get(key: K): V | undefined; set(key: K, value: V): unknown }, key: K, make: () => V): V {
  let value = map.get(key);
  if (value === undefined) map.set(key, (value = make()));
  return value;
}

function clip(type: number, subject: Region, other: Region): Region {
  const ofType = kept(keptClips, type, () => new WeakMap<Region, WeakMap<Region, Region>>());
  const ofSubject = kept(ofType, subject, () => new WeakMap<Region, Region>());
  return kept(ofSubject, other, () => clipAnew(type, subject, other));
}

function clipAnew(type: number, subject: Region, other: Region): Region {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(subject.map(toPath), PolyType.ptSubject, true);
  if (other.length > 0) clipper.AddPaths(other.map(toPath), PolyType.ptClip, true);
  const solution: Paths = new ClipperLib.Paths();
  clipper.Execute(type, solution, PolyFillType.pftNonZero, PolyFillType.pftNonZero);
  return solution.map(fromPath);
}

/** All that lies in any of the rings. */
export function union(...regions: Region[]): Region {
  const full = regions.filter((region) => region.length > 0);
  if (full.length === 0) return [];
  return clip(ClipType.ctUnion, full.length === 1 ? full[0] : full.flat(), NOTHING);
}

/** All of `region` that does not lie in `taken`. */
export function difference(region: Region, taken: Region): Region {
  if (region.length === 0 || taken.length === 0) return region;
  return clip(ClipType.ctDifference, region, taken);
}

/** All that lies in both. */
export function intersection(a: Region, b: Region): Region {
  return a.length === 0 || b.length === 0 ? [] : clip(ClipType.ctIntersection, a, b);
}

/** The region grown by `deltaMm` (shrunk if negative), corners kept sharp up to a mitre of two. */
export function offset(region: Region, deltaMm: number): Region {
  return deltaMm === 0 ? region : offsets(region, [deltaMm])[0];
}

/** The region grown or shrunk by several distances at once: cheaper than one by one. */
export function offsets(region: Region, deltasMm: number[]): Region[] {
  if (region.length === 0) return deltasMm.map(() => []);
  const ofRegion = kept(keptOffsets, region, () => new Map<string, Region[]>());
  return kept(ofRegion, deltasMm.join(), () => offsetsAnew(region, deltasMm));
}

function offsetsAnew(region: Region, deltasMm: number[]): Region[] {
  const worker = new ClipperLib.ClipperOffset(2, 0.02 * SCALE);
  worker.AddPaths(region.map(toPath), JoinType.jtMiter, EndType.etClosedPolygon);
  return deltasMm.map((deltaMm) => {
    const solution: Paths = new ClipperLib.Paths();
    worker.Execute(solution, deltaMm * SCALE);
    return solution.map(fromPath);
  });
}

/** Signed area of a ring, mm²: positive counter-clockwise (shoelace formula). */
export function ringAreaMm2(ring: Ring): number {
  let twice = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    twice += ring[j].x * ring[i].y - ring[i].x * ring[j].y;
  }
  return twice / 2;
}

/** Area of a region, mm², holes taken off. */
export function regionAreaMm2(region: Region): number {
  return region.reduce((sum, ring) => sum + ringAreaMm2(ring), 0);
}

export interface Box {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

/** The smallest upright box around all points; a box with `minX > maxX` if there are none. */
export function boundingBox(region: Region): Box {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const ring of region) {
    for (const { x, y } of ring) {
      if (x < box.minX) box.minX = x;
      if (x > box.maxX) box.maxX = x;
      if (y < box.minY) box.minY = y;
      if (y > box.maxY) box.maxY = y;
    }
  }
  return box;
}

/** Whether two boxes share a point, with `marginMm` of room. */
export function boxesMeet(a: Box, b: Box, marginMm = 0): boolean {
  return (
    a.minX <= b.maxX + marginMm &&
    b.minX <= a.maxX + marginMm &&
    a.minY <= b.maxY + marginMm &&
    b.minY <= a.maxY + marginMm
  );
}

/** Whether the point lies in the region (even-odd, so holes count as outside). */
export function contains(region: Region, x: number, y: number): boolean {
  let inside = false;
  for (const ring of region) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const a = ring[i];
      const b = ring[j];
      if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
    }
  }
  return inside;
}

/** The region cut into its separate islands, each an outline with its holes. */
export function islandsOf(region: Region): Region[] {
  const outlines = region.filter((ring) => ringAreaMm2(ring) > 0);
  if (outlines.length === 1) return [region];
  const islands: Region[] = outlines.map((ring) => [ring]);
  const areas = outlines.map(ringAreaMm2);
  for (const hole of region) {
    if (ringAreaMm2(hole) > 0) continue;
    let owner = -1;
    outlines.forEach((outline, i) => {
      if (contains([outline], hole[0].x, hole[0].y) && (owner < 0 || areas[i] < areas[owner])) owner = i;
    });
    if (owner >= 0) islands[owner].push(hole);
  }
  return islands;
}

/** An upright rectangle. */
export function rectangle(minX: number, minY: number, maxX: number, maxY: number): Ring {
  return [
    { x: minX, y: minY },
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
  ];
}

/** A circle as a polygon of `corners` that has the circle's own area. */
export function circle(centreX: number, centreY: number, radiusMm: number, corners = 24): Ring {
  const radius = radiusMm * Math.sqrt((2 * Math.PI) / (corners * Math.sin((2 * Math.PI) / corners)));
  return Array.from({ length: corners }, (_, i) => {
    const angle = (2 * Math.PI * i) / corners;
    return { x: centreX + radius * Math.cos(angle), y: centreY + radius * Math.sin(angle) };
  });
}
