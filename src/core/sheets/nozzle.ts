/** The nozzle of a sheet: lays segments, goes from stroke to stroke, draws the filament back where the way would leave strings. */
import { uint32Column } from "../gcode/columns";
import { MoveKind, MoveTable, MoveTableBuilder } from "../gcode/moves";
import { filamentAreaMm2 } from "../material/bead";
import { Ground } from "./ground";

/** How the printer goes from stroke to stroke. */
export interface SheetWays {
  travelMmS: number;
  liftMmS: number;
  retractionMm: number;
  retractionMmS: number;
  hopMm: number;
  filamentDiameterMm: number;
  /** Where the nozzle stands before the first stroke, drawn back. */
  start: { x: number; y: number };
}

/** What is laid from here on: whose it is, and how. */
export interface LaidAs {
  /** The row of the sheet. */
  field: string;
  /** Of the whole print, from 0. */
  stroke: number;
  kind: MoveKind;
  /** Drawn back before it: by its distance where it is null; a figure is mm. */
  retract: boolean | number | null;
}

export interface BeadNow {
  areaMm2: number;
  widthMm: number;
  heightMm: number;
  speedMmS: number;
}

/** A way across the bed without drawing back. */
export interface BareJump {
  field: string;
  lengthMm: number;
  zMm: number;
}

export interface NozzleMoves {
  moves: MoveTable;
  layerStarts: number[];
  tops: number[];
  linesBeforeMove: Map<number, string>;
  row: Uint32Array;
  fields: string[];
  stroke: Uint32Array;
  /** Height of each stroke's bead where it begins, mm; by its number. */
  beadHeights: number[];
  bareJump: BareJump | null;
  /** How often the nozzle went over a place that is kept out. */
  gaps: number;
}

/** So many widths of a bead are gone without drawing back: nothing has time to ooze. Common practice, no source. */
export const NEAR_BEADS = 2;
/** At least so high the nozzle goes over what is kept out: an insert may stand out a little. Common practice, no source. */
const GAP_HOP_MM = 0.4;
/** A jump without drawing back that is worth a word, mm. Common practice, no source. */
const JUMP_MM = 10;

export class Nozzle {
  x: number;
  y: number;
  z = 0;
  private readonly table = new MoveTableBuilder();
  private readonly ground = new Ground();
  private readonly filamentArea: number;
  private readonly layerStarts: number[] = [];
  private readonly tops: number[] = [];
  private readonly linesBeforeMove = new Map<number, string>();
  private readonly rows = uint32Column();
  private readonly strokes = uint32Column();
  private readonly fields = new Map<string, number>();
  private row = 0;
  private rowField: string | null = null;
  private gaps = 0;
  private bareJump: BareJump | null = null;
  private readonly beadHeights: number[] = [];
  private backMm: number;
  private waiting: string[] = [];

  constructor(
    public ways: SheetWays,
    private readonly savesRetractions: boolean,
    /** Whether a way at a height crosses a place that is kept out. */
    private readonly crosses: (x0: number, y0: number, x1: number, y1: number, z: number) => boolean = () => false,
  ) {
    this.filamentArea = filamentAreaMm2(ways.filamentDiameterMm);
    this.x = ways.start.x;
    this.y = ways.start.y;
    this.backMm = ways.retractionMm;
  }

  get moves(): number {
    return this.rows.length;
  }

  /** Height of the layer that is open; none before the first. */
  get topMm(): number | null {
    return this.tops.length > 0 ? this.tops[this.tops.length - 1] : null;
  }

  /** A layer begins, unless it is open already. */
  open(zMm: number): void {
    const { topMm } = this;
    if (topMm !== null && Math.abs(topMm - zMm) < 1e-9) return;
    this.layerStarts.push(this.moves);
    this.tops.push(zMm);
    this.ground.rise();
  }

  /** Lines to stand before the next move. */
  say(lines: readonly string[]): void {
    this.waiting.push(...lines);
  }

  layTo(x: number, y: number, z: number, bead: BeadNow, as: LaidAs): void {
    const [dx, dy, dz] = [x - this.x, y - this.y, z - this.z];
    const lengthMm = Math.sqrt(dx * dx + dy * dy + dz * dz);
    if (lengthMm < 1e-6) return;
    this.giveBack(as);
    this.beadHeights[as.stroke] ??= bead.heightMm;
    this.ground.lay(this.x, this.y, x, y);
    this.add(x, y, z, (lengthMm * bead.areaMm2) / this.filamentArea, bead.speedMmS, as.kind, as);
  }

  /** To where something is laid next; nothing where the nozzle stands there. */
  goTo(x: number, y: number, z: number, widthMm: number, as: LaidAs): void {
    const farMm = Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2);
    if (farMm <= 1e-4 && Math.abs(z - this.z) <= 1e-4) return;
    this.travel(x, y, z, this.backFor(x, y, farMm, widthMm, as), as);
  }

  /** Over a place that is kept out: drawn back and lifted, whatever the way. */
  goOver(x: number, y: number, z: number, as: LaidAs): void {
    const { retractionMm, hopMm } = this.ways;
    this.gaps++;
    this.travel(x, y, z, retractionMm, as, Math.max(hopMm, GAP_HOP_MM));
  }

  /** Goes there, drawn back by so much before; lifted over what stands where it is drawn back. */
  travel(x: number, y: number, z: number, backMm: number, as: LaidAs, hopMm = this.ways.hopMm): void {
    const { retractionMmS, travelMmS, liftMmS } = this.ways;
    const farMm = Math.hypot(x - this.x, y - this.y);
    const isBack = backMm > 0 || this.backMm > 0;
    if (backMm > 0 && this.backMm === 0) {
      this.add(this.x, this.y, this.z, -backMm, retractionMmS, MoveKind.retract, as);
      this.backMm = backMm;
    }
    if (
      !isBack &&
      farMm > JUMP_MM &&
      farMm > (this.bareJump?.lengthMm ?? 0) &&
      !this.ground.holds(this.x, this.y, x, y)
    )
      this.bareJump = { field: as.field, lengthMm: farMm, zMm: z };
    const low = Math.max(z, this.z);
    const liftMm = this.crosses(this.x, this.y, x, y, low) ? Math.max(hopMm, GAP_HOP_MM) : isBack ? hopMm : 0;
    const over = low + (farMm > 1e-4 ? liftMm : 0);
    if (over > this.z + 1e-6) this.add(this.x, this.y, over, 0, liftMmS, MoveKind.travel, as);
    if (farMm > 1e-4) this.add(x, y, over, 0, travelMmS, MoveKind.travel, as);
    if (over > z + 1e-6) this.add(x, y, z, 0, liftMmS, MoveKind.travel, as);
    this.x = x;
    this.y = y;
    this.z = z;
  }

  take(): NozzleMoves {
    // Lines in the last row stand behind everything.
    if (this.waiting.length > 0) this.linesBeforeMove.set(this.moves, this.waiting.join("\n"));
    const { tops, linesBeforeMove, bareJump, gaps, beadHeights } = this;
    const layerStarts = [...this.layerStarts, this.moves];
    const moves = this.table.take();
    for (let i = 0; i + 1 < layerStarts.length; i++) moves.layer.fill(i, layerStarts[i], layerStarts[i + 1]);
    return {
      layerStarts,
      moves,
      tops,
      linesBeforeMove,
      row: this.rows.take(),
      fields: [...this.fields.keys()],
      stroke: this.strokes.take(),
      beadHeights,
      bareJump,
      gaps,
    };
  }

  /** How much is drawn back before a way: not on short ones, nor on those that stay over what is laid. */
  private backFor(x: number, y: number, farMm: number, widthMm: number, { retract }: LaidAs): number {
    const { retractionMm } = this.ways;
    if (typeof retract === "number") return retract;
    if (retract !== null) return retract ? retractionMm : 0;
    if (farMm < 1e-3) return 0;
    if (!this.savesRetractions) return retractionMm;
    return farMm > NEAR_BEADS * widthMm && !this.ground.holds(this.x, this.y, x, y) ? retractionMm : 0;
  }

  private giveBack(as: LaidAs): void {
    if (this.backMm === 0) return;
    const backMm = this.backMm;
    this.backMm = 0;
    this.add(this.x, this.y, this.z, backMm, this.ways.retractionMmS, MoveKind.restore, as);
  }

  private add(
    x: number,
    y: number,
    z: number,
    filamentMm: number,
    feedMmS: number,
    kind: MoveKind,
    { field, stroke }: LaidAs,
  ): void {
    if (this.waiting.length > 0) {
      this.linesBeforeMove.set(this.rows.length, this.waiting.join("\n"));
      this.waiting = [];
    }
    if (field !== this.rowField) {
      this.rowField = field;
      const known = this.fields.get(field);
      this.row = known ?? this.fields.size;
      if (known === undefined) this.fields.set(field, this.row);
    }
    this.rows.push(this.row);
    this.strokes.push(stroke);
    this.table.add(x, y, z, filamentMm, feedMmS, kind, 0);
    this.x = x;
    this.y = y;
    this.z = z;
  }
}
