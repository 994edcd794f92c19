/** Slices → move table: the order of islands, travels, retractions, skirt or brim, and the smallest layer time. */
import { MoveKind, MoveTable, MoveTableBuilder } from "../gcode/moves";
import { Box, boxesMeet, offset, Point, Region, ringAreaMm2, union } from "../geometry/polygons";
import { distanceMm, wayInside } from "../geometry/segments";
import { beadAreaMm2, filamentAreaMm2 } from "../material/bead";
import { moveSeconds, MotionLimits } from "../motion/duration";
import { fillIsland, IslandPaths, Stroke } from "./island";
import { fillKey, laidAreaMm2, Process, spacingMm } from "./process";
import { Island, Section, Slice } from "./slices";
import { Track } from "./track";

/** Travels shorter than this never draw the filament back. */
const SHORT_TRAVEL_MM = 1.2;
/** A way inside the piece may be this many times longer than straight across the gap. */
const MOST_DETOUR = 3;
const SKIRT_GAP_MM = 4;

export interface LaidPrint {
  moves: MoveTable;
  /** First move of each layer, and the end of the last: `layers + 1` figures. */
  layerStarts: number[];
  /** Seconds of every move, as laid. */
  seconds: Float32Array;
  /** Where another spot of side-by-side values begins: before this move, which lays material. */
  spotStarts: { move: number; spot: number }[];
}

export interface PrintRequest {
  slices: Slice[];
  /** How a layer is laid; the same object for layers that are laid alike. */
  processOf(layer: number): Process;
  /** Where the piece's 0, 0 lies, and where the nozzle arrives with the filament drawn back. Bed coordinates, mm. */
  centre: Point;
  start: Point;
  limits: MotionLimits;
  /** Spots of side-by-side values: from layer `spotsFrom` on, islands are laid in their order. */
  spots?: readonly Point[];
  spotsFrom?: number;
  /** Filament drawn back when leaving each spot, mm. */
  retractionsMm?: readonly number[];
}

const MOST_KEPT = 20_000;
const keptLayers = new Map<string, IslandPaths[]>();
const keptIslands = new Map<string, IslandPaths>();

/**
 * The filled islands of a layer, in the order of its section, from the store where this situation was met before. Two
 * levels: whole layers repeat within a band; single islands repeat from band to band though others differ.
 */
function pathsOfLayer(slices: Slice[], layer: number, process: Process, processKey: string): IslandPaths[] {
  const { section, heightMm } = slices[layer];
  const below: Section[] = [];
  const above: Section[] = [];
  for (let i = 1; i <= process.solidLayersBelow && layer - i >= 0; i++) below.push(slices[layer - i].section);
  for (let i = 1; i <= process.solidLayersAbove && layer + i < slices.length; i++)
    above.push(slices[layer + i].section);
  const common = `${processKey}/${Math.round(heightMm * 1e4)}/${layer & 1}`;
  let key = `${common}/${section.id}/`;
  for (const { id } of below) key += `${id},`;
  key += "/";
  for (const { id } of above) key += `${id},`;
  let paths = keptLayers.get(key);
  if (!paths) {
    paths = section.islands.map((island) => pathsOfIsland(island, below, above, heightMm, layer, process, common));
    if (keptLayers.size > MOST_KEPT) keptLayers.clear();
    keptLayers.set(key, paths);
  }
  return paths;
}

function pathsOfIsland(
  island: Island,
  below: Section[],
  above: Section[],
  layerHeightMm: number,
  layer: number,
  process: Process,
  common: string,
): IslandPaths {
  const near = ({ islands }: Section) => islands.filter((other) => boxesMeet(other.box, island.box));
  const nearBelow = below.map(near);
  const nearAbove = above.map(near);
  const idsOf = (list: Island[][]) => list.map((islands) => islands.map(({ id }) => id).join(",")).join(";");
  const key = `${common}/${island.id}/${idsOf(nearBelow)}/${idsOf(nearAbove)}`;
  let paths = keptIslands.get(key);
  if (!paths) {
    paths = fillIsland(
      {
        island: island.region,
        layerHeightMm,
        odd: (layer & 1) === 1,
        below: distinct(nearBelow),
        above: distinct(nearAbove),
        bottomMissing: below.length < process.solidLayersBelow,
        topMissing: above.length < process.solidLayersAbove,
      },
      process,
    );
    if (keptIslands.size > MOST_KEPT) keptIslands.clear();
    keptIslands.set(key, paths);
  }
  return paths;
}

/** The regions of neighbouring layers without repeats of the one before: in the middle of a post all layers are one. */
function distinct(islands: Island[][]): Region[] {
  const ids = islands.map((list) => list.map(({ id }) => id).join(","));
  return islands
    .filter((_, i) => i === 0 || ids[i] !== ids[i - 1])
    .map((list) => (list.length === 1 ? list[0].region : list.flatMap(({ region }) => region)));
}

class Layer {
  x: number;
  y: number;
  z = 0;
  drawnBack = true;
  spot = -1;
  readonly spotStarts: LaidPrint["spotStarts"] = [];
  readonly table = new MoveTableBuilder();
  private readonly filamentArea: number;
  private drawnBackMm: number;

  constructor(
    public process: Process,
    private readonly centre: Point,
    start: Point,
    private readonly retractionsMm?: readonly number[],
  ) {
    this.x = start.x;
    this.y = start.y;
    this.filamentArea = filamentAreaMm2(process.filamentDiameterMm);
    this.drawnBackMm = process.retractionMm;
  }

  /** The next line that is laid begins this spot; what is drawn back on the way there still belongs to the last one. */
  goTo(spot: number): void {
    this.nextSpot = spot;
  }
  private nextSpot = -1;

  /**
   * Goes to a point of the piece without laying. Where a way inside the island is free, straight or round a corner, the nozzle
   * stays low and keeps its filament; where a gap must be crossed, the filament is drawn back.
   */
  travelTo(to: Point, island: IslandPaths | null): void {
    const from = { x: this.x - this.centre.x, y: this.y - this.centre.y };
    const length = distanceMm(from, to);
    if (length < 1e-4) return;
    const way = length < SHORT_TRAVEL_MM ? [] : island && wayInside(island.inside, island.bends, from, to, MOST_DETOUR);
    if (way === null) this.drawBack();
    const z = this.z + (this.drawnBack ? this.process.hopMm : 0);
    for (const { x, y } of [...(way ?? []), to]) {
      this.move(x + this.centre.x, y + this.centre.y, z, 0, this.process.travelMmS, MoveKind.travel);
    }
  }

  /** Lays a line to a point of the piece. */
  layTo(to: Point, areaMm2: number, speedMmS: number, kind: number): void {
    const x = to.x + this.centre.x;
    const y = to.y + this.centre.y;
    const length = distanceMm(this, { x, y });
    if (length < 1e-4) return;
    this.restore();
    if (this.nextSpot !== this.spot) {
      this.spot = this.nextSpot;
      this.spotStarts.push({ move: this.table.count, spot: this.spot });
    }
    this.move(x, y, this.z, (length * areaMm2) / this.filamentArea, speedMmS, kind);
  }

  drawBack(): void {
    const length = this.retractionsMm?.[this.spot] ?? this.process.retractionMm;
    if (this.drawnBack || length <= 0) return;
    this.drawnBack = true;
    this.drawnBackMm = length;
    this.table.add(this.x, this.y, this.z, -length, this.process.retractionMmS, MoveKind.retract, 0);
    if (this.process.hopMm > 0) this.raise(this.z + this.process.hopMm);
  }

  /** Lowers a lifted nozzle and gives the filament back. */
  restore(): void {
    if (!this.drawnBack) return;
    this.drawnBack = false;
    if (this.process.hopMm > 0) this.raise(this.z);
    this.table.add(this.x, this.y, this.z, this.drawnBackMm, this.process.retractionMmS, MoveKind.restore, 0);
  }

  raise(z: number): void {
    this.table.add(this.x, this.y, z, 0, 10, MoveKind.travel, 0);
  }

  private move(x: number, y: number, z: number, fed: number, speedMmS: number, kind: number): void {
    this.x = x;
    this.y = y;
    this.table.add(x, y, z, fed, speedMmS, kind, 0);
  }
}

/** Lays all slices: brim or skirt, then in each layer what is solid, then its tracks. */
export function layPrint(request: PrintRequest): LaidPrint {
  const { slices, processOf, centre, start, limits, retractionsMm, spotsFrom = 0 } = request;
  const state = new Layer(processOf(0), centre, start, retractionsMm);
  const layerStarts: number[] = [];
  const at = (): Point => ({ x: state.x - centre.x, y: state.y - centre.y });
  slices.forEach((slice, index) => {
    const process = processOf(index);
    layerStarts.push(state.table.count);
    state.process = process;
    state.drawBack();
    state.z = slice.zTopMm;
    state.raise(slice.zTopMm + (state.drawnBack ? process.hopMm : 0));
    const first = index === 0;
    const speeds = speedsFor(process, first);
    const area = laidAreaMm2(process, slice.heightMm, false);
    const airArea = laidAreaMm2(process, slice.heightMm, true);
    const lay = (stroke: Stroke, island: IslandPaths | null, reversed = false) => {
      const points = reversed ? [...stroke.points].reverse() : stroke.points;
      const kinds = reversed ? [...stroke.kinds].reverse() : stroke.kinds;
      state.travelTo(points[0], island);
      for (let i = 0; i < kinds.length; i++) {
        const overAir = kinds[i] === MoveKind.bridge;
        state.layTo(points[i + 1], overAir ? airArea : area, speeds[kinds[i]], kinds[i]);
      }
    };
    if (first) for (const stroke of around(slice, process)) lay(stroke, null);
    const spots = index >= spotsFrom ? request.spots : undefined;
    const filled = pathsOfLayer(slices, index, process, fillKey(process));
    const waiting = slice.section.islands.map((island, i) => ({
      box: island.box,
      paths: filled[i],
      ...(spots ? nearestSpot(island.box, spots) : { spot: -1, distance: 0 }),
    }));
    // What stands beside a spot comes before it, so that the way to the next spot begins on the spot itself.
    if (spots) waiting.sort((a, b) => a.spot - b.spot || b.distance - a.distance);
    while (waiting.length > 0) {
      const { paths, spot } = spots ? waiting.shift()! : takeNearest(waiting, at());
      if (spot >= 0) state.goTo(spot);
      for (const wall of paths.walls) lay(wall, paths);
      layNearestFirst(paths.fill, (stroke, reversed) => lay(stroke, paths, reversed), at);
    }
    for (const track of slice.tracks) layTrack(state, track, slice.heightMm, speeds, first);
  });
  state.drawBack();
  layerStarts.push(state.table.count);
  const moves = state.table.take();
  for (let i = 0; i + 1 < layerStarts.length; i++) moves.layer.fill(i, layerStarts[i], layerStarts[i + 1]);
  const seconds = slowSmallLayers(moves, layerStarts, processOf, limits);
  return { moves, layerStarts, seconds, spotStarts: state.spotStarts };
}

/** One bead of the track's own width and, where it has them, its own speeds. */
function layTrack(state: Layer, track: Track, layerHeightMm: number, speeds: Record<number, number>, first: boolean) {
  const area = beadAreaMm2(track.widthMm, layerHeightMm);
  const usual = speeds[MoveKind.outerWall];
  if (track.spot !== undefined) state.goTo(track.spot);
  state.travelTo(track.points[0], null);
  for (let i = 1; i < track.points.length; i++) {
    const wished = track.speedsMmS?.[i - 1] ?? usual;
    // A pattern of one layer is all first layer: its speeds are the trial itself.
    const speed = first && track.spot === undefined ? Math.min(wished, usual) : wished;
    state.layTo(track.points[i], area, speed, MoveKind.outerWall);
  }
}

/** Index of the spot that lies nearest to the middle of a box, and how far away it is, mm. */
function nearestSpot(box: Box, spots: readonly Point[]): { spot: number; distance: number } {
  const middle = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
  let best = -1;
  let nearest = Infinity;
  spots.forEach((spot, i) => {
    const distance = distanceMm(middle, spot);
    if (distance < nearest) {
      nearest = distance;
      best = i;
    }
  });
  return { spot: best, distance: nearest };
}

function speedsFor(process: Process, first: boolean): Record<number, number> {
  const held = (speedMmS: number) => (first ? Math.min(speedMmS, process.firstLayerMmS) : speedMmS);
  return {
    [MoveKind.outerWall]: held(process.outerWallMmS),
    [MoveKind.innerWall]: held(process.innerWallMmS),
    [MoveKind.solid]: held(process.solidMmS),
    [MoveKind.sparse]: held(process.sparseMmS),
    [MoveKind.bridge]: held(process.bridgeMmS),
    [MoveKind.skirt]: held(process.firstLayerMmS),
  };
}

/** Brim rings from outside in, or one skirt ring at a distance. */
function around(slice: Slice, process: Process): Stroke[] {
  const region = union(...slice.drawn.islands.map(({ region }) => region));
  const spacing = spacingMm(process, slice.heightMm);
  const distances =
    process.brimRings > 0
      ? Array.from({ length: process.brimRings }, (_, i) => spacing * (process.brimRings - i - 0.5))
      : [SKIRT_GAP_MM];
  return distances.flatMap((distance) =>
    offset(region, distance)
      .filter((ring) => ringAreaMm2(ring) > 0)
      .map((ring) => ({
        points: [...ring, ring[0]],
        kinds: ring.map(() => MoveKind.skirt as number),
        closed: true,
      })),
  );
}

function takeNearest<T extends { box: Box }>(islands: T[], from: Point): T {
  let best = 0;
  let nearest = Infinity;
  islands.forEach(({ box }, i) => {
    const dx = Math.max(box.minX - from.x, 0, from.x - box.maxX);
    const dy = Math.max(box.minY - from.y, 0, from.y - box.maxY);
    const distance = dx * dx + dy * dy;
    if (distance < nearest) {
      best = i;
      nearest = distance;
    }
  });
  return islands.splice(best, 1)[0];
}

/** Lays open lines so that each starts at the end nearest to where the nozzle is. */
function layNearestFirst(strokes: Stroke[], lay: (stroke: Stroke, reversed: boolean) => void, at: () => Point): void {
  const waiting = [...strokes];
  while (waiting.length > 0) {
    const from = at();
    let best = 0;
    let reversed = false;
    let nearest = Infinity;
    // Looking a few lines ahead is enough: hatching comes in order already.
    for (let i = 0; i < Math.min(waiting.length, 24); i++) {
      const { points } = waiting[i];
      const toStart = distanceMm(from, points[0]);
      const toEnd = distanceMm(from, points[points.length - 1]);
      if (Math.min(toStart, toEnd) < nearest - 1e-9) {
        nearest = Math.min(toStart, toEnd);
        best = i;
        reversed = toEnd < toStart;
      }
    }
    lay(waiting.splice(best, 1)[0], reversed);
  }
}

/** Rounds of slowing: short lines never reach their speed, so that lowering it helps less than in proportion. */
const MOST_ROUNDS = 6;
const CLOSE_ENOUGH = 0.98;

/**
 * A layer that would be done before it can cool is laid slower; travels and bridges keep their speed. Returns the seconds of
 * every move as it is then.
 */
function slowSmallLayers(
  moves: MoveTable,
  layerStarts: number[],
  processOf: (layer: number) => Process,
  limits: MotionLimits,
): Float32Array {
  let seconds = moveSeconds(moves, null, limits);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let slowed = false;
    for (let layer = 0; layer + 1 < layerStarts.length; layer++) {
      const process = processOf(layer);
      if (process.smallestLayerSeconds <= 0) continue;
      let total = 0;
      let slowable = 0;
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
        total += seconds[i];
        if (canSlow(moves.kind[i]) && moves.feedMmS[i] > process.slowestMmS) slowable += seconds[i];
      }
      if (total >= process.smallestLayerSeconds * CLOSE_ENOUGH || slowable <= 0) continue;
      slowed = true;
      const share = slowable / (slowable + process.smallestLayerSeconds - total);
      for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
        if (canSlow(moves.kind[i])) moves.feedMmS[i] = Math.max(process.slowestMmS, moves.feedMmS[i] * share);
      }
    }
    if (!slowed) break;
    seconds = moveSeconds(moves, null, limits);
  }
  return seconds;
}

function canSlow(kind: number): boolean {
  return kind >= MoveKind.outerWall && kind !== MoveKind.bridge;
}
