/**
 * One island of one layer → the lines that fill it: walls, bridges, solid and sparse fill. Depends only on the island and on
 * what stands right below and above it, so the answer is kept: the storeys of a tower repeat.
 */
import { MoveKind } from "../gcode/moves";
import {
  boundingBox,
  boxesMeet,
  difference,
  intersection,
  islandsOf,
  offset,
  offsets,
  Point,
  Region,
  regionAreaMm2,
  ringAreaMm2,
  union,
} from "../geometry/polygons";
import { cutAtBorders, distanceMm, hatch, staysInside } from "../geometry/segments";
import { Bridge, findBridges } from "./bridges";
import { Process, spacingMm } from "./process";

/** Points joined by lines that are laid without stopping; `kinds[i]` is the line from point i to i + 1. */
export interface Stroke {
  points: Point[];
  kinds: number[];
  /** Stretches of a bridge strand that lie on its piers: beads, where the rest is a strand. Left out where there are none. */
  onPier?: boolean[];
  /** Closed walls start and end in one point: the seam. */
  closed: boolean;
}

export interface IslandPaths {
  /** Inner walls before outer ones. */
  walls: Stroke[];
  /** By connected part: one is finished before the next is begun. */
  fill: Stroke[][];
  /** Where travelling crosses no gap. */
  inside: Region;
  /** Points inside at which a way can turn round a corner. */
  bends: Point[];
}

export interface IslandSurroundings {
  island: Region;
  layerHeightMm: number;
  /** Even and odd layers cross their fill. */
  odd: boolean;
  /** The regions of the layers below, nearest first; missing layers (the bed) make the island's bottom solid. */
  below: Region[];
  above: Region[];
  /** Layers that are missing below or above: the piece starts or ends there. */
  bottomMissing: boolean;
  topMissing: boolean;
}

const SMALLEST_SPARSE_MM2 = 12;
/** Fill shorter than this many bead widths is left out: it closes nothing, and the way to it crosses faces that are looked at. */
const SHORTEST_FILL_BEADS = 1.5;
/** How many bead widths strands reach into what holds them. */
const HOLD_BEADS = 3;

/** Fills one island. */
export function fillIsland(around: IslandSurroundings, process: Process): IslandPaths {
  const { island, layerHeightMm } = around;
  const spacing = spacingMm(process, layerHeightMm);
  const firstLayer = around.bottomMissing && around.below.length === 0;
  const standsOnItself = around.below.length > 0 && around.below[0] === island;
  const bridges = firstLayer || standsOnItself ? [] : findBridges(island, around.below[0] ?? [], process.beadWidthMm);
  const overAir = union(...bridges.map(({ region }) => region));

  // The outer wall stands half a bead spacing inside, so that what is laid has the volume of what was asked for.
  const wallDistances = Array.from({ length: process.walls }, (_, wall) => -spacing * (wall + 0.5));
  const [inside, turning, core, ...rings] = offsets(island, [
    -spacing * 0.45,
    -spacing * 0.7,
    -spacing * (process.walls + 0.35),
    ...wallDistances,
  ]);
  const bends = turning.flat();
  const walls: Stroke[] = [];
  for (let wall = process.walls - 1; wall >= 0; wall--) {
    const kind = wall === 0 ? MoveKind.outerWall : MoveKind.innerWall;
    for (const ring of rings[wall]) {
      if (Math.abs(ringAreaMm2(ring)) < 0.02) continue;
      walls.push(wallStroke(ring, kind, overAir, process.seamNear));
    }
  }
  const fill: Stroke[][] = [];
  if (core.length === 0) return { walls, fill, inside, bends };

  const shortest = process.beadWidthMm * SHORTEST_FILL_BEADS;
  /** Hatches a region, one connected part after the other. */
  const lay = (region: Region, angle: number, distance: number, kind: number, joins: boolean, air?: Region) => {
    for (const part of islandsOf(region)) {
      const lines = hatch(part, angle, distance);
      const joined = joins ? joinLines(lines, kind, part, spacing) : null;
      const strokes = joined
        ? air === undefined
          ? joined
          : joined.map((stroke) => cutAtPiers(stroke, air))
        : lines.map(({ a, b }) => ({ points: [a, b], kinds: [kind], closed: false }));
      const long = strokes.filter(({ points }) => lengthMm(points) >= shortest);
      if (long.length > 0) fill.push(long);
    }
  };

  let rest = core;
  for (const bridge of bridges) {
    const spanned = heldStrands(bridge, bridges, rest, process.beadWidthMm * HOLD_BEADS);
    if (spanned.length === 0) continue;
    lay(spanned, bridge.angle, process.bridgePitchMm, MoveKind.bridge, true, bridge.region);
    rest = difference(rest, spanned);
  }
  let solid = rest;
  if (!around.bottomMissing && !around.topMissing) {
    let covered = rest;
    // Layers that are alike share one region: each is cut with once.
    for (const region of new Set([...around.below, ...around.above])) {
      if (region !== island) covered = intersection(covered, region);
    }
    const bare = covered === rest ? [] : difference(rest, covered);
    const open = union(bare, intersection(startsOn(island, around.above[0], spacing, process.walls), rest));
    // Slivers narrower than a bead are left to the sparse fill.
    solid = open.length === 0 ? [] : offset(offset(open, -spacing * 0.3), spacing * 0.3 + 0.2);
    if (solid.length > 0) solid = intersection(solid, rest);
    if (regionAreaMm2(rest) - regionAreaMm2(solid) < SMALLEST_SPARSE_MM2 && regionAreaMm2(rest) < SMALLEST_SPARSE_MM2) {
      solid = rest;
    }
  }
  const angle = around.odd ? Math.PI / 4 : (3 * Math.PI) / 4;
  if (solid.length > 0) lay(solid, angle, spacing, MoveKind.solid, true);
  const sparse = solid === rest ? [] : difference(rest, solid);
  if (sparse.length > 0) lay(sparse, angle, spacing / process.sparseDensity, MoveKind.sparse, false);
  return { walls, fill, inside, bends };
}

/**
 * Where the strands of a bridge run: over its air and into the posts for a hold, but never over the air of another bridge, whose posts are
 * others; and only in parts that reach its air at all.
 */
function heldStrands(bridge: Bridge, bridges: readonly Bridge[], rest: Region, holdMm: number): Region {
  let spanned = intersection(offset(bridge.region, holdMm), rest);
  for (const other of bridges) if (other !== bridge) spanned = difference(spanned, other.region);
  const air = boundingBox(bridge.region);
  return islandsOf(spanned)
    .filter((part) => boxesMeet(boundingBox(part), air) && intersection(part, bridge.region).length > 0)
    .flat();
}

/** Where walls of the layer above begin that this island does not have itself: they need more than sparse fill to stand on. */
function startsOn(island: Region, above: Region | undefined, spacing: number, walls: number): Region {
  if (above === undefined || above === island) return [];
  const [outer, inner] = offsets(above, [spacing * 0.5, -spacing * (walls + 0.5)]);
  return difference(outer, inner);
}

function lengthMm(points: readonly Point[]): number {
  let length = 0;
  for (let i = 1; i < points.length; i++) length += distanceMm(points[i - 1], points[i]);
  return length;
}

/** The ring from its seam round to it again; pieces over air become bridge strands. The seam lies at the back left unless a place is named. */
function wallStroke(ring: Point[], kind: number, overAir: Region, seamNear: Point | undefined): Stroke {
  const rank = (point: Point) => (seamNear ? -distanceMm(point, seamNear) : point.y - point.x);
  let seam = 0;
  ring.forEach((point, i) => {
    if (rank(point) > rank(ring[seam]) + 1e-6) seam = i;
  });
  const points: Point[] = [ring[seam]];
  const kinds: number[] = [];
  for (let step = 1; step <= ring.length; step++) {
    const to = ring[(seam + step) % ring.length];
    if (overAir.length === 0) {
      points.push(to);
      kinds.push(kind);
      continue;
    }
    for (const piece of cutAtBorders(overAir, points[points.length - 1], to)) {
      points.push(piece.b);
      kinds.push(piece.inside ? MoveKind.bridge : kind);
    }
  }
  return { points, kinds, closed: true };
}

/** Neighbouring lines joined at their ends where the way between them stays inside: one zigzag instead of many starts. */
export function joinLines(
  lines: { a: Point; b: Point; row: number }[],
  kind: number,
  region: Region,
  spacing: number,
): Stroke[] {
  const strokes: Stroke[] = [];
  let lastRow = NaN;
  for (const { a, b, row } of lines) {
    const current = strokes[strokes.length - 1];
    const end = current?.points[current.points.length - 1];
    if (
      end &&
      row === lastRow + 1 &&
      distanceMm(end, a) < spacing * 2.5 &&
      staysInside(region, inward(end, b), inward(a, b))
    ) {
      current.points.push(a, b);
      // The short way round at the edge is laid too, but never counts as a strand over air.
      current.kinds.push(kind === MoveKind.bridge ? MoveKind.solid : kind, kind);
    } else strokes.push({ points: [a, b], kinds: [kind], closed: false });
    lastRow = row;
  }
  return strokes;
}

/** A stroke of strands with its stretches told apart: those over air, and those on the piers that hold them. */
function cutAtPiers({ points, kinds, closed }: Stroke, air: Region): Stroke {
  const cut: Required<Stroke> = { points: [points[0]], kinds: [], onPier: [], closed };
  kinds.forEach((kind, i) => {
    const pieces =
      kind === MoveKind.bridge ? cutAtBorders(air, points[i], points[i + 1]) : [{ b: points[i + 1], inside: true }];
    for (const { b, inside } of pieces) {
      cut.points.push(b);
      cut.kinds.push(inside ? kind : MoveKind.solid);
      cut.onPier.push(!inside);
    }
  });
  return cut;
}

/** A point moved a hair towards another, so that an end on the very border counts as inside. */
function inward(point: Point, towards: Point): Point {
  return { x: point.x + (towards.x - point.x) * 0.02, y: point.y + (towards.y - point.y) * 0.02 };
}
