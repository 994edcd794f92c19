/** The nozzle on its way: where it stands, whether the filament is drawn back, and the moves it has made. */
import { MoveKind, MoveTableBuilder } from "../gcode/moves";
import { Point } from "../geometry/polygons";
import { distanceMm, wayInside } from "../geometry/segments";
import { filamentAreaMm2 } from "../material/bead";
import { IslandPaths } from "./island";
import { Process } from "./process";

/** Travels shorter than this never draw the filament back. */
const SHORT_TRAVEL_MM = 1.2;
/** A way inside the piece may be this many times longer than straight across the gap. */
const MOST_DETOUR = 3;

/** From a move on, which lays material, another spot of side-by-side values. */
export interface SpotStart {
  move: number;
  spot: number;
}

export class Pen {
  x: number;
  y: number;
  z = 0;
  drawnBack = true;
  spot = -1;
  readonly spotStarts: SpotStart[] = [];
  readonly table = new MoveTableBuilder();
  private readonly filamentArea: number;
  private drawnBackMm: number;

  /** @param ofSpot how a spot is laid, where its value lives inside the moves: from how its layer is laid */
  constructor(
    private ofLayer: Process,
    private readonly centre: Point,
    start: Point,
    private readonly ofSpot: (usual: Process, spot: number) => Process = (usual) => usual,
  ) {
    this.x = start.x;
    this.y = start.y;
    this.filamentArea = filamentAreaMm2(ofLayer.filamentDiameterMm);
    this.drawnBackMm = ofLayer.retractionMm;
    this.process = ofLayer;
  }

  /** How the nozzle goes on its way: as the layer wants it, and the spot that was laid last. */
  private process: Process;

  /** From here on the nozzle is in a layer that is laid like this. */
  beginLayer(process: Process): void {
    this.ofLayer = process;
    this.process = this.on(this.spot);
  }

  /** How the next line is laid. */
  get next(): Process {
    return this.on(this.nextSpot);
  }

  private on(spot: number): Process {
    return spot < 0 ? this.ofLayer : this.ofSpot(this.ofLayer, spot);
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
  travelTo(to: Point, island: IslandPaths | null, shortMm = SHORT_TRAVEL_MM): void {
    const from = { x: this.x - this.centre.x, y: this.y - this.centre.y };
    const length = distanceMm(from, to);
    if (length < 1e-4) return;
    const way = length < shortMm ? [] : island && wayInside(island.inside, island.bends, from, to, MOST_DETOUR);
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
      this.process = this.next;
      this.spotStarts.push({ move: this.table.count, spot: this.spot });
    }
    this.move(x, y, this.z, (length * areaMm2) / this.filamentArea, speedMmS, kind);
  }

  drawBack(): void {
    const length = this.process.retractionMm;
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
    this.table.add(this.x, this.y, z, 0, this.process.liftMmS, MoveKind.travel, 0);
  }

  private move(x: number, y: number, z: number, fed: number, speedMmS: number, kind: number): void {
    this.x = x;
    this.y = y;
    this.table.add(x, y, z, fed, speedMmS, kind, 0);
  }
}
