/** A sheet laid: its rows in their order, as one move table. */
import { uint32Column } from "../gcode/columns";
import { MoveKind, MoveTable, MoveTableBuilder } from "../gcode/moves";
import { beadAreaMm2, filamentAreaMm2 } from "../material/bead";
import { refuse, Refusal, Result, succeed } from "../result";
import { plainNumber } from "../units";
import { Along, compileSheet, LayNode, RepeatNode, SheetNode } from "./compile";
import { KeptOut } from "./keep-out";
import { Path } from "./path";
import type { Scope } from "./scope";
import type { Sheet } from "./sheet";

/** How the printer goes from stroke to stroke. */
export interface SheetWays {
  travelMmS: number;
  liftMmS: number;
  retractionMm: number;
  retractionMmS: number;
  hopMm: number;
  filamentDiameterMm: number;
  /** Where the nozzle stands before the first stroke. */
  start: { x: number; y: number };
}

export interface LaidSheet {
  moves: MoveTable;
  /** First move of each layer, and behind the last the number of moves: a layer is a height of the repeats. */
  layerStarts: number[];
  tops: number[];
  strokes: number;
  /** Ways that would have drawn the filament back, and did not have to. */
  savedRetractions: number;
  /** Lines to stand before a move. */
  linesBeforeMove: Map<number, string>;
  /** Row of each move, as an index of `fields`. */
  row: Uint32Array;
  fields: string[];
}

const MOST_MOVES = 4_000_000;
const MOST_REPEATS = 100_000;
/** Farther than this no printer goes, mm: a formula has run away. */
const FARTHEST_MM = 3000;
const NEAR_BEADS = 2;

export function laySheet(sheet: Sheet, ways: SheetWays): Result<LaidSheet> {
  const compiled = compileSheet(sheet);
  if (!compiled.ok) return compiled;
  const layer = new SheetLayer(sheet, ways, compiled.value.scope);
  const height = compiled.value.scope.compile(sheet.bead.heightMm, "bead.heightMm");
  if (!height.ok) return height;
  compiled.value.scope.set("z", height.value.at(compiled.value.scope.slots));
  layer.run(compiled.value.nodes);
  if (layer.refusal) return layer.refusal;
  return succeed(layer.take());
}

/** From the sheet's places to the bed's: turned, mirrored, shifted. */
interface Affine {
  xx: number;
  xy: number;
  yx: number;
  yy: number;
  x: number;
  y: number;
}

const still: Affine = { xx: 1, xy: 0, yx: 0, yy: 1, x: 0, y: 0 };

/** First `inner`, then `outer`. */
const behind = (outer: Affine, inner: Affine): Affine => ({
  xx: outer.xx * inner.xx + outer.xy * inner.yx,
  xy: outer.xx * inner.xy + outer.xy * inner.yy,
  yx: outer.yx * inner.xx + outer.yy * inner.yx,
  yy: outer.yx * inner.xy + outer.yy * inner.yy,
  x: outer.xx * inner.x + outer.xy * inner.y + outer.x,
  y: outer.yx * inner.x + outer.yy * inner.y + outer.y,
});

class SheetLayer {
  refusal: Refusal | null = null;
  private readonly table = new MoveTableBuilder();
  private readonly path = new Path();
  private readonly keptOut: KeptOut;
  private readonly filamentArea: number;
  private readonly layerStarts: number[] = [];
  private readonly tops: number[] = [];
  private readonly linesBeforeMove = new Map<number, string>();
  private readonly rows = uint32Column();
  private readonly fields = new Map<string, number>();
  private readonly slotZ: number;
  private readonly slotLayer: number;
  private readonly slotT: number;
  private readonly slotA: number;
  private strokes = 0;
  private savedRetractions = 0;
  private at: { x: number; y: number; z: number };
  private isDrawnBack = true;
  private waiting: string[] = [];

  constructor(
    private readonly sheet: Sheet,
    private readonly ways: SheetWays,
    private readonly scope: Scope,
  ) {
    this.keptOut = new KeptOut(sheet.keepOut);
    this.filamentArea = filamentAreaMm2(ways.filamentDiameterMm);
    this.at = { ...ways.start, z: 0 };
    [this.slotZ, this.slotLayer, this.slotT, this.slotA] = ["z", "layer", "t", "a"].map((name) =>
      scope.names.get(name)!,
    );
  }

  take(): LaidSheet {
    const { layerStarts, tops, strokes, savedRetractions, linesBeforeMove } = this;
    return {
      moves: this.table.take(),
      layerStarts: [...layerStarts, this.rows.length],
      tops,
      strokes,
      savedRetractions,
      linesBeforeMove,
      row: this.rows.take(),
      fields: [...this.fields.keys()],
    };
  }

  run(nodes: readonly SheetNode[], place: Affine = still): void {
    for (const node of nodes) {
      if (this.refusal) return;
      const { slots } = this.scope;
      switch (node.kind) {
        case "lay":
          this.lay(node, place);
          break;
        case "repeat":
          this.repeat(node, place);
          break;
        case "group":
          this.run(node.nodes, place);
          break;
        case "lines":
          this.waiting.push(...node.lines);
          break;
        case "dwell":
          this.waiting.push(`G4 P${plainNumber(Math.max(0, node.seconds(slots)) * 1000, 0)}`);
          break;
        case "travel": {
          const [x, y] = this.placed(place, node.to[0](slots), node.to[1](slots));
          const z = node.z ? node.z(slots) : slots[this.slotZ];
          if (this.isSound(x, y, z, node.field)) this.travelTo(x, y, z, node.field, false, 0);
        }
      }
    }
  }

  private repeat(node: RepeatNode, place: Affine): void {
    const { slots } = this.scope;
    const count = Math.round(node.count(slots));
    if (!(count >= 0 && count <= MOST_REPEATS)) {
      this.refusal = refuse(
        `It would be repeated ${plainNumber(count, 0)} times; 0 to ${MOST_REPEATS} can be.`,
        `${node.field}.count`,
      );
      return;
    }
    const [ownZ, ownLayer] = [slots[this.slotZ], slots[this.slotLayer]];
    for (let i = 0; i < count && !this.refusal; i++) {
      if (node.counter >= 0) slots[node.counter] = i;
      const by = node.spacingMm(slots) * i;
      if (node.along === "z") {
        slots[this.slotZ] = ownZ + by;
        slots[this.slotLayer] = i;
      }
      this.run(node.nodes, behind(place, this.step(node, i, count, by)));
    }
    slots[this.slotZ] = ownZ;
    slots[this.slotLayer] = ownLayer;
  }

  private step(node: RepeatNode, i: number, count: number, by: number): Affine {
    if (node.along === "x") return { ...still, x: by };
    if (node.along === "y") return { ...still, y: by };
    if (node.along === "z" || i === 0) return still;
    const { slots } = this.scope;
    const [x, y] = [node.centre[0](slots), node.centre[1](slots)];
    // Mirrored at the upright line through the centre; `angle` turns that line.
    const angle = node.angle ? node.angle(slots) : node.along === "round" ? (2 * Math.PI) / count : Math.PI / 2;
    const turned = node.along === "round" ? angle * i : 2 * angle;
    const [cos, sin] = [Math.cos(turned), Math.sin(turned)];
    const about =
      node.along === "round" ? { xx: cos, xy: -sin, yx: sin, yy: cos } : { xx: cos, xy: sin, yx: sin, yy: -cos };
    return { ...about, x: x - about.xx * x - about.xy * y, y: y - about.yx * x - about.yy * y };
  }

  private placed({ xx, xy, yx, yy, x, y }: Affine, px: number, py: number): [number, number] {
    return [xx * px + xy * py + x, yx * px + yy * py + y];
  }

  private isSound(x: number, y: number, z: number, field: string): boolean {
    const most = Math.max(Math.abs(x), Math.abs(y), Math.abs(z));
    if (most < FARTHEST_MM) return true;
    this.refusal ??= refuse(
      Number.isFinite(most)
        ? `The stroke runs away to ${plainNumber(most, 0)} mm (t = ${plainNumber(this.scope.slots[this.slotT], 3)}).`
        : `The stroke comes to no place at t = ${plainNumber(this.scope.slots[this.slotT], 3)}: a formula divides by nothing, or takes a root of less.`,
      field,
    );
    return false;
  }

  private lay(node: LayNode, place: Affine): void {
    const { slots } = this.scope;
    const { path } = this;
    node.draw(path);
    if (path.count < 2) return;
    this.strokes++;
    const nominalZ = slots[this.slotZ];
    const offset = this.startOf(place);
    const last = path.count - 1;
    const constant = this.constantBead(node);
    let [px, py, pz] = [0, 0, 0];
    for (let n = 0; n <= last; n++) {
      // A ring begins anywhere: its last point is its first.
      const i = offset === 0 ? n : (offset + n) % last;
      slots[this.slotT] = path.t[i];
      slots[this.slotA] = path.a[i];
      const own = path.z[i];
      if (own === own) slots[this.slotZ] = own;
      const [x, y] = this.placed(place, path.x[i], path.y[i]);
      const z = node.z ? node.z.at(slots) : own === own ? own : nominalZ;
      if (!this.isSound(x, y, z, node.field)) break;
      if (n === 0) this.open(nominalZ);
      else if (!this.segment(node, constant, px, py, pz, x, y, z)) break;
      [px, py, pz] = [x, y, z];
    }
    slots[this.slotZ] = nominalZ;
  }

  /** Index of the point at which a ring begins: the nearest to where the nozzle stands. */
  private startOf(place: Affine): number {
    const { path } = this;
    if (!path.isClosed || this.sheet.optimise?.nearestStart === false) return 0;
    let [best, least] = [0, Infinity];
    for (let i = 0; i < path.count - 1; i++) {
      const [x, y] = this.placed(place, path.x[i], path.y[i]);
      const far = (x - this.at.x) ** 2 + (y - this.at.y) ** 2;
      if (far < least - 1e-9) [best, least] = [i, far];
    }
    return best;
  }

  private open(z: number): void {
    if (this.tops.length > 0 && Math.abs(this.tops[this.tops.length - 1] - z) < 1e-9) return;
    this.layerStarts.push(this.rows.length);
    this.tops.push(z);
  }

  /** Cross-section and speed of a whole stroke, where they do not change along it. */
  private constantBead(node: LayNode): { areaMm2: number; widthMm: number; speedMmS: number } | null {
    const all: Along[] = [node.widthMm, node.heightMm, node.speedMmS, node.flow];
    return all.some(({ changes }) => changes) ? null : this.beadOf(node);
  }

  private beadOf(node: LayNode): { areaMm2: number; widthMm: number; speedMmS: number } | null {
    const { slots } = this.scope;
    const [widthMm, heightMm, speedMmS, flow] = [node.widthMm, node.heightMm, node.speedMmS, node.flow].map(({ at }) =>
      at(slots),
    );
    if (!(widthMm > 0 && widthMm < 20 && heightMm > 0 && heightMm < 5)) {
      this.refusal ??= refuse(
        `A bead ${plainNumber(widthMm)} mm wide and ${plainNumber(heightMm)} mm high cannot be laid.`,
        `${node.field}.bead`,
      );
      return null;
    }
    if (!(speedMmS > 0.1 && speedMmS <= 2000)) {
      this.refusal ??= refuse(`A speed of ${plainNumber(speedMmS)} mm/s cannot be.`, `${node.field}.speedMmS`);
      return null;
    }
    if (!(flow >= 0 && flow <= 500)) {
      this.refusal ??= refuse(`A flow of ${plainNumber(flow)} % cannot be.`, `${node.field}.flow`);
      return null;
    }
    return { areaMm2: (beadAreaMm2(widthMm, heightMm) * flow) / 100, widthMm, speedMmS };
  }

  private segment(
    node: LayNode,
    constant: ReturnType<SheetLayer["constantBead"]>,
    x0: number,
    y0: number,
    z0: number,
    x1: number,
    y1: number,
    z1: number,
  ): boolean {
    const bead = constant ?? this.beadOf(node);
    if (!bead || this.refusal) return false;
    if (this.rows.length > MOST_MOVES) {
      this.refusal = refuse(
        `This would be more than ${MOST_MOVES.toLocaleString("en")} moves: fewer steps or fewer repeats.`,
        node.field,
      );
      return false;
    }
    if (this.keptOut.isEmpty) {
      this.layFrom(node, bead, x0, y0, z0, x1, y1, z1);
      return true;
    }
    const cuts = [0, ...this.keptOut.crossings(x0, y0, x1, y1, (z0 + z1) / 2), 1];
    for (let i = 0; i + 1 < cuts.length; i++) {
      const [from, to] = [cuts[i], cuts[i + 1]];
      const middle = (from + to) / 2;
      const on = (share: number) => [x0 + (x1 - x0) * share, y0 + (y1 - y0) * share, z0 + (z1 - z0) * share] as const;
      if (this.keptOut.isInside(...on(middle))) continue;
      this.layFrom(node, bead, ...on(from), ...on(to));
    }
    return true;
  }

  private layFrom(
    { field, retract }: LayNode,
    { areaMm2, widthMm, speedMmS }: { areaMm2: number; widthMm: number; speedMmS: number },
    x0: number,
    y0: number,
    z0: number,
    x1: number,
    y1: number,
    z1: number,
  ): void {
    const lengthMm = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2 + (z1 - z0) ** 2);
    if (lengthMm < 1e-6) return;
    const farMm = Math.hypot(x0 - this.at.x, y0 - this.at.y);
    if (farMm > 1e-4 || Math.abs(z0 - this.at.z) > 1e-4)
      this.travelTo(x0, y0, z0, field, retract ?? this.drawsBack(farMm, widthMm), farMm);
    this.restore(field);
    this.add(x1, y1, z1, (lengthMm * areaMm2) / this.filamentArea, speedMmS, MoveKind.outerWall, field);
    this.at = { x: x1, y: y1, z: z1 };
  }

  private drawsBack(farMm: number, widthMm: number): boolean {
    if (farMm > NEAR_BEADS * widthMm) return true;
    if (this.sheet.optimise?.noNeedlessRetraction === false) return farMm > 1e-3;
    if (farMm > 1e-3) this.savedRetractions++;
    return false;
  }

  private travelTo(x: number, y: number, z: number, field: string, drawsBack: boolean, farMm: number): void {
    const { retractionMm, retractionMmS, travelMmS, liftMmS, hopMm } = this.ways;
    if (drawsBack && !this.isDrawnBack && retractionMm > 0) {
      this.add(this.at.x, this.at.y, this.at.z, -retractionMm, retractionMmS, MoveKind.retract, field);
      this.isDrawnBack = true;
    }
    const over = Math.max(z, this.at.z) + (drawsBack && farMm > 0 ? hopMm : 0);
    if (over > this.at.z + 1e-6) this.add(this.at.x, this.at.y, over, 0, liftMmS, MoveKind.travel, field);
    this.add(x, y, over, 0, travelMmS, MoveKind.travel, field);
    if (over > z + 1e-6) this.add(x, y, z, 0, liftMmS, MoveKind.travel, field);
    this.at = { x, y, z };
  }

  private restore(field: string): void {
    if (!this.isDrawnBack) return;
    const { retractionMm, retractionMmS } = this.ways;
    if (retractionMm > 0)
      this.add(this.at.x, this.at.y, this.at.z, retractionMm, retractionMmS, MoveKind.restore, field);
    this.isDrawnBack = false;
  }

  private add(x: number, y: number, z: number, filamentMm: number, feedMmS: number, kind: number, field: string): void {
    if (this.waiting.length > 0) {
      this.linesBeforeMove.set(this.rows.length, this.waiting.join("\n"));
      this.waiting = [];
    }
    let row = this.fields.get(field);
    if (row === undefined) this.fields.set(field, (row = this.fields.size));
    this.rows.push(row);
    this.table.add(x, y, z, filamentMm, feedMmS, kind, 0);
  }
}
