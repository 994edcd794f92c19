/** Slices → move table: what is laid round the piece, then layer by layer its islands and its tracks. */
import { MoveKind, MoveTable } from "../gcode/moves";
import { Point } from "../geometry/polygons";
import { beadAreaMm2 } from "../material/bead";
import { MotionLimits } from "../motion/duration";
import { IslandPaths, Stroke } from "./island";
import { pathsOfLayer } from "./island-store";
import { layPartByPart, nearestSpot, takeNearest } from "./order";
import { Pen, SpotStart } from "./pen";
import { laidAreaMm2, Process } from "./process";
import { strokesAround } from "./skirt";
import { Slice } from "./slices";
import { slowSmallLayers } from "./slowing";
import { Track } from "./track";

export interface LaidPrint {
  moves: MoveTable;
  /** First move of each layer, and the end of the last: `layers + 1` figures. */
  layerStarts: number[];
  /** Seconds of every move, as laid. */
  seconds: Float32Array;
  /** Where another spot of side-by-side values begins: before this move, which lays material. */
  spotStarts: SpotStart[];
}

export interface PrintRequest {
  slices: Slice[];
  /** How a layer is laid; the same object for layers that are laid alike. */
  processOf(layer: number): Process;
  /** Where the piece's 0, 0 lies, and where the nozzle arrives with the filament drawn back. Bed coordinates, mm. */
  centre: Point;
  start: Point;
  limits: MotionLimits;
  /** Places whose islands are laid in their order, from layer `spotsFrom` on. */
  order?: readonly Point[];
  /** Spots of side-by-side values: from layer `spotsFrom` on, islands are laid in their order. */
  spots?: readonly Point[];
  spotsFrom?: number;
  /** How a spot is laid, where its value lives inside the moves: from how its layer is laid. The same object for what is alike. */
  ofSpot?: (usual: Process, spot: number) => Process;
}

/** From stroke to stroke of a number laid flat the filament is not drawn back: it would be ground down, and every stroke begin with a blob. */
const TEXT_TRAVEL_MM = 4;

/** Lays all slices: brim or skirt, then in each layer what is solid, then its tracks. */
export function layPrint(request: PrintRequest): LaidPrint {
  const { slices, processOf, centre, start, limits, ofSpot, spotsFrom = 0 } = request;
  const pen = new Pen(processOf(0), centre, start, ofSpot);
  const layerStarts: number[] = [];
  const at = (): Point => ({ x: pen.x - centre.x, y: pen.y - centre.y });
  slices.forEach((slice, index) => {
    const process = processOf(index);
    layerStarts.push(pen.table.count);
    pen.beginLayer(process);
    pen.drawBack();
    pen.z = slice.zTopMm;
    pen.raise(slice.zTopMm + (pen.drawnBack ? process.hopMm : 0));
    const first = index === 0;
    const speedsOf = speedsByProcess(first);
    const area = laidAreaMm2(process, slice.heightMm, false);
    const airArea = laidAreaMm2(process, slice.heightMm, true);
    const pierArea = Math.min(airArea, process.bridgePitchMm * slice.heightMm);
    const lay = (stroke: Stroke, island: IslandPaths | null, reversed = false) => {
      const points = reversed ? [...stroke.points].reverse() : stroke.points;
      const kinds = reversed ? [...stroke.kinds].reverse() : stroke.kinds;
      const { onPier } = stroke;
      const speeds = speedsOf(pen.next);
      pen.travelTo(points[0], island);
      for (let i = 0; i < kinds.length; i++) {
        // On its pier a strand has the room of a layer: more would stand up as a lump. It goes as slowly there as over air.
        const isOnPier = onPier?.[reversed ? kinds.length - 1 - i : i] === true;
        const ownArea = isOnPier ? pierArea : kinds[i] === MoveKind.bridge ? airArea : area;
        pen.layTo(points[i + 1], ownArea, speeds[isOnPier ? MoveKind.bridge : kinds[i]], kinds[i]);
      }
    };
    if (first) for (const stroke of strokesAround(slice, process)) lay(stroke, null);
    const spots = index >= spotsFrom ? request.spots : undefined;
    const order = spots ?? (index >= spotsFrom ? request.order : undefined);
    const filled = pathsOfLayer(slices, index, process);
    const waiting = slice.section.islands.map((island, i) => ({
      box: island.box,
      paths: filled[i],
      ...(order ? nearestSpot(island.box, order) : { spot: -1, distance: 0 }),
    }));
    // What stands beside a spot comes before it, so that the way to the next spot begins on the spot itself.
    if (order) waiting.sort((a, b) => a.spot - b.spot || b.distance - a.distance);
    while (waiting.length > 0) {
      const { paths, spot } = order ? waiting.shift()! : takeNearest(waiting, at());
      if (spots && spot >= 0) pen.goTo(spot);
      for (const wall of paths.walls) lay(wall, paths);
      layPartByPart(paths.fill, (stroke, reversed) => lay(stroke, paths, reversed), at);
    }
    for (const track of slice.tracks) layTrack(pen, track, slice.heightMm, speedsOf, first);
  });
  pen.drawBack();
  layerStarts.push(pen.table.count);
  const moves = pen.table.take();
  for (let i = 0; i + 1 < layerStarts.length; i++) moves.layer.fill(i, layerStarts[i], layerStarts[i + 1]);
  // A speed that is tried on a spot is kept, whatever the layer's size: then nothing is slowed down.
  const slowed = (layer: number) => (ofSpot && layer >= spotsFrom ? ofSpot(processOf(layer), 0) : processOf(layer));
  const seconds = slowSmallLayers(moves, layerStarts, slowed, limits);
  return { moves, layerStarts, seconds, spotStarts: pen.spotStarts };
}

/** One bead of the track's own width and, where it has them, its own speeds. */
function layTrack(
  pen: Pen,
  track: Track,
  layerHeightMm: number,
  speedsOf: (process: Process) => Speeds,
  first: boolean,
) {
  const area = beadAreaMm2(track.widthMm, layerHeightMm);
  if (track.spot !== undefined) pen.goTo(track.spot);
  // A wide track asks for more than a wall at the same speed.
  const most = track.isText ? Infinity : pen.next.mostFlowMm3S / area;
  const usual = Math.min(speedsOf(pen.next)[MoveKind.outerWall], most);
  for (const place of track.via ?? []) pen.travelTo(place, null);
  pen.travelTo(track.points[0], null, track.isText ? TEXT_TRAVEL_MM : undefined);
  for (let i = 1; i < track.points.length; i++) {
    const wanted = track.speedsMmS?.[i - 1] ?? usual;
    // A pattern of one layer is all first layer: its speeds are the trial itself.
    const speed = first && track.spot === undefined ? Math.min(wanted, usual) : wanted;
    pen.layTo(track.points[i], area, speed, MoveKind.outerWall);
  }
  for (const place of [...(track.via ?? [])].reverse()) pen.travelTo(place, null);
}

type Speeds = Record<number, number>;

/** The speeds of a process, worked out once for as long as it stays the same. */
function speedsByProcess(first: boolean): (process: Process) => Speeds {
  let last: { process: Process; speeds: Speeds } | null = null;
  return (process) => {
    if (last?.process !== process) last = { process, speeds: speedsFor(process, first) };
    return last.speeds;
  };
}

function speedsFor(process: Process, first: boolean): Speeds {
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
