/** A sheet laid: its rows in their order, as one move table. */
import { MoveKind } from "../gcode/moves";
import type { Point } from "../geometry/polygons";
import { beadSpacingMm } from "../material/bead";
import { refuse, Refusal, Result, succeed } from "../result";
import { plainNumber, roundTo } from "../units";
import { Affine, behind, mirrored, placed, shifted, still, turned } from "./affine";
import { bandAt, rehearsedBands, SheetBands } from "./bands";
import { Beads } from "./beads";
import { Along, compileSheet, LayNode, LineText, RepeatNode, SheetNode } from "./compile";
import { fillOf } from "./fill";
import { KeptOut } from "./keep-out";
import { LastRing } from "./last-ring";
import { BeadNow, LaidAs, NEAR_BEADS, Nozzle, NozzleMoves, SheetWays } from "./nozzle";
import { Path } from "./path";
import type { Scope } from "./scope";
import { Segments } from "./segments";
import type { Sheet } from "./sheet";

export type { SheetWays } from "./nozzle";

/** First move of each layer, and behind the last the number of moves; a layer is a height of the repeats, or a turn of a climbing wall. */
export interface LaidSheet extends NozzleMoves {
  strokes: number;
}

/** Told now and then how many moves are laid; says false where it is not worth going on. */
export type LayingWatch = (moves: number) => boolean;

const MOST_MOVES = 4_000_000;
const MOST_REPEATS = 100_000;
/** Rows in all their copies, and points drawn for them, laid or not: what goes beyond would never end. */
const MOST_COPIES = 2_000_000;
const MOST_POINTS = 8_000_000;
/** Farther than this no printer goes, mm: a formula has run away. */
const FARTHEST_MM = 3000;
const WATCH_EVERY_STROKES = 64;
const WATCH_EVERY_MOVES = 50_000;
/** Solid is at most so much covered, and a fill at least so much, %. */
const FILL_PERCENT = { least: 1, most: 120 };

const tooMuch = (what: string, field: string): Refusal =>
  refuse(`This would be more than ${what}: fewer steps or fewer repeats.`, field);

export const STOPPED = "It was stopped.";

/**
 * The sheet as moves; refused with the row and field of what cannot be laid.
 *
 * @param bands those of the trial it is laid for; without them those that the sheet rehearses
 */
export function laySheet(
  sheet: Sheet,
  ways: SheetWays,
  bands: SheetBands | null = null,
  watch: LayingWatch = () => true,
): Result<LaidSheet> {
  if (bands || !sheet.rehearse) return layWith(sheet, ways, bands, watch);
  // What is rehearsed is spread over the height, which is known when it was laid once.
  const flat = rehearsedBands(sheet, 1);
  if (!flat.ok) return flat;
  const once = layWith(sheet, ways, flat.value, watch);
  if (!once.ok) return once;
  const highestMm = once.value.tops.reduce((most, top) => Math.max(most, top), 0.01);
  const rehearsed = rehearsedBands(sheet, highestMm);
  return rehearsed.ok ? layWith(sheet, ways, rehearsed.value, watch) : rehearsed;
}

function layWith(sheet: Sheet, ways: SheetWays, bands: SheetBands | null, watch: LayingWatch): Result<LaidSheet> {
  const compiled = compileSheet(sheet, bands);
  if (!compiled.ok) return compiled;
  const { scope, nodes } = compiled.value;
  const keptOut = KeptOut.of(sheet.keepOut, scope);
  if (!keptOut.ok) return keptOut;
  const height = scope.compile(sheet.bead.heightMm, "bead.heightMm");
  if (!height.ok) return height;
  const layer = new SheetLayer(sheet, ways, scope, keptOut.value, bands, watch);
  layer.rise(height.value.at(scope.slots));
  layer.run(nodes, still, false);
  return layer.refusal ?? succeed(layer.take());
}

class SheetLayer {
  refusal: Refusal | null = null;
  private readonly nozzle: Nozzle;
  private readonly segments: Segments;
  private readonly path = new Path();
  private readonly lastRing = new LastRing();
  private readonly beads: Beads;
  private readonly slotZ: number;
  private readonly slotLayer: number;
  private readonly slotT: number;
  private readonly slotA: number;
  private readonly slotValue: number;
  private strokes = 0;
  private copies = 0;
  private points = 0;
  private watched = 0;
  private band = -2;

  constructor(
    private readonly sheet: Sheet,
    private readonly ways: SheetWays,
    private readonly scope: Scope,
    private readonly keptOut: KeptOut,
    private readonly bands: SheetBands | null,
    private readonly watch: LayingWatch,
  ) {
    this.nozzle = new Nozzle(ways, sheet.optimise?.noNeedlessRetraction !== false, (x0, y0, x1, y1, z) =>
      keptOut.isCrossed(x0, y0, x1, y1, z),
    );
    this.segments = new Segments(this.nozzle, keptOut);
    this.beads = new Beads(scope, ways.filamentDiameterMm);
    [this.slotZ, this.slotLayer, this.slotT, this.slotA, this.slotValue] = ["z", "layer", "t", "a", "value"].map(
      (name) => scope.names.get(name)!,
    );
  }

  take(): LaidSheet {
    return { ...this.nozzle.take(), strokes: this.strokes };
  }

  /** The height at hand, and what the band there makes of it. */
  rise(zMm: number): void {
    const { slots } = this.scope;
    slots[this.slotZ] = zMm;
    if (!this.bands) return;
    const band = bandAt(this.bands, zMm);
    if (band === this.band) return;
    this.band = band;
    slots[this.slotValue] = this.bands.values[Math.max(0, band)];
    const { speedMmS: _speed, ...own } = this.waysHere() ?? {};
    this.nozzle.ways = { ...this.ways, ...own };
  }

  private waysHere() {
    return this.band < 0 ? this.bands?.baseWays : this.bands?.ways?.[this.band];
  }

  /** @param mayTurn whether strokes may be run backwards: copies beside one another, not what stands alone */
  run(nodes: readonly SheetNode[], place: Affine, mayTurn: boolean): void {
    for (const node of nodes) {
      if (this.refusal) return;
      if (++this.copies > MOST_COPIES) {
        this.refusal = tooMuch(`${MOST_COPIES.toLocaleString("en")} copies`, "items");
        return;
      }
      const { slots } = this.scope;
      switch (node.kind) {
        case "lay":
          this.lay(node, place, mayTurn);
          break;
        case "repeat":
          this.repeat(node, place, mayTurn);
          break;
        case "group":
          this.run(node.nodes, place, mayTurn);
          break;
        case "lines":
          this.say(node.lines, node.field);
          break;
        case "dwell":
          this.nozzle.say([`G4 P${plainNumber(Math.max(0, node.seconds(slots)) * 1000, 0)}`]);
          break;
        case "travel": {
          const [x, y] = placed(place, node.to[0](slots), node.to[1](slots));
          const z = node.z ? node.z(slots) : slots[this.slotZ];
          const as: LaidAs = { field: node.field, stroke: this.strokes, kind: MoveKind.travel, retract: false };
          this.lastRing.forget();
          if (this.isSound(x, y, z, node.field)) this.nozzle.travel(x, y, z, 0, as);
        }
      }
    }
  }

  private say(lines: readonly LineText[], field: string): void {
    const { slots } = this.scope;
    this.nozzle.say(
      lines.map(({ texts, formulas }, i) =>
        texts
          .map((text, n) => {
            if (n >= formulas.length) return text;
            const value = formulas[n](slots);
            if (!Number.isFinite(value)) this.refusal ??= refuse("It has no value.", `${field}.lines.${i}`);
            return text + plainNumber(value, 4);
          })
          .join(""),
      ),
    );
  }

  private repeat(node: RepeatNode, place: Affine, mayTurn: boolean): void {
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
    const enter = (i: number): Affine => {
      if (node.counter >= 0) slots[node.counter] = i;
      const by = node.spacingMm(slots) * i;
      if (node.along !== "z") return behind(place, this.step(node, i, count, by));
      this.rise(ownZ + by);
      slots[this.slotLayer] = i;
      return place;
    };
    const isFlat = node.along !== "z";
    const isBackwards = isFlat && count > 1 && this.isLastNearer(node, count, enter);
    for (let n = 0; n < count && !this.refusal; n++) {
      if (++this.copies > MOST_COPIES) this.refusal = tooMuch(`${MOST_COPIES.toLocaleString("en")} copies`, node.field);
      const inner = enter(isBackwards ? count - 1 - n : n);
      this.run(node.nodes, inner, isFlat || mayTurn);
    }
    this.rise(ownZ);
    slots[this.slotLayer] = ownLayer;
  }

  private step(node: RepeatNode, i: number, count: number, by: number): Affine {
    if (node.along === "x") return shifted(by, 0);
    if (node.along === "y") return shifted(0, by);
    if (i === 0) return still;
    const { slots } = this.scope;
    const [x, y] = [node.centre[0](slots), node.centre[1](slots)];
    if (node.along === "mirror") return mirrored(node.angle ? node.angle(slots) : Math.PI / 2, x, y);
    return turned((node.angle ? node.angle(slots) : (2 * Math.PI) / count) * i, x, y);
  }

  /** The last copy begins nearer to the nozzle than the first: they are laid from there. */
  private isLastNearer(node: RepeatNode, count: number, enter: (i: number) => Affine): boolean {
    if (this.sheet.optimise?.nearestCopy === false || !node.mayBeTurned) return false;
    const farOf = (i: number) => {
      const from = this.beginningOf(node.nodes, enter(i));
      return from ? (from.x - this.nozzle.x) ** 2 + (from.y - this.nozzle.y) ** 2 : Infinity;
    };
    return farOf(count - 1) < farOf(0) - 1e-9;
  }

  /** Where the first of the rows would begin; null where they lay nothing. */
  private beginningOf(nodes: readonly SheetNode[], place: Affine): Point | null {
    for (const node of nodes) {
      if (node.kind === "lay") {
        node.draw(this.path);
        if (this.path.count < 2) continue;
        const i = this.startOf(node, place);
        const [x, y] = placed(place, this.path.x[i], this.path.y[i]);
        return { x, y };
      }
      if (node.kind === "group" || node.kind === "repeat") {
        const inner = this.beginningOf(node.nodes, place);
        if (inner) return inner;
      }
    }
    return null;
  }

  private isSound(x: number, y: number, z: number, field: string): boolean {
    const most = Math.max(Math.abs(x), Math.abs(y), Math.abs(z));
    if (most < FARTHEST_MM) return true;
    const at = plainNumber(this.scope.slots[this.slotT], 3);
    this.refusal ??= refuse(
      Number.isFinite(most)
        ? `The stroke runs away to ${plainNumber(most, 0)} mm (t = ${at}).`
        : `The stroke has no valid position at t = ${at}: a formula divides by zero or takes the root of a negative number.`,
      field,
    );
    return false;
  }

  private lay(node: LayNode, place: Affine, mayTurn: boolean): void {
    const { slots } = this.scope;
    const { path, nozzle } = this;
    node.draw(path);
    this.points += path.count;
    if (this.points > MOST_POINTS) {
      this.refusal = tooMuch(`${MOST_POINTS.toLocaleString("en")} points`, node.field);
      return;
    }
    if (path.count < 2) return;
    this.strokes++;
    if (this.strokes % WATCH_EVERY_STROKES === 0 && !this.isWatched(node.field)) return;
    const as: LaidAs = {
      field: node.field,
      stroke: this.strokes - 1,
      kind: MoveKind.outerWall,
      retract: this.orRefused(this.beads.retractionOf(node)),
    };
    if (this.refusal) return;
    const nominalZ = slots[this.slotZ];
    const start = this.touchingStart(node, place, as, nominalZ) ?? this.startOf(node, place);
    const last = path.count - 1;
    const isBack = node.reverse ?? (mayTurn && this.isEndNearer(place));
    const constant = this.constantBead(node);
    const movesBefore = nozzle.moves;
    this.segments.lift();
    let [px, py, pz, pt, pa] = [0, 0, 0, 0, 0];
    for (let n = 0; n <= last; n++) {
      // A ring begins anywhere: its last point is its first.
      const along = isBack ? last - n : n;
      const i = path.isClosed && (start > 0 || isBack) ? (start + along) % last : along;
      const [t, a, own] = [path.t[i], path.a[i], path.z[i]];
      slots[this.slotT] = t;
      slots[this.slotA] = a;
      const isOwn = own === own;
      if (isOwn && own !== slots[this.slotZ]) this.rise(own);
      const x = place.xx * path.x[i] + place.xy * path.y[i] + place.x;
      const y = place.yx * path.x[i] + place.yy * path.y[i] + place.y;
      const z = node.z ? node.z.at(slots) : isOwn ? own : nominalZ;
      if (!this.isSound(x, y, z, node.field)) break;
      // A height of its own is the layer's, unless it changes along the stroke.
      if (n === 0) nozzle.open(isOwn ? own + path.layerEveryMm : node.z && !node.z.changes ? z : nominalZ);
      else {
        if (path.layerEveryMm > 0 && pz >= nozzle.topMm! - 1e-6)
          nozzle.open(roundTo(nozzle.topMm! + path.layerEveryMm, 6));
        if (path.lifts.size === 0 || !path.lifts.has(isBack ? i + 1 : i)) {
          if (!constant) this.between(pt, t, pa, a);
          if (!this.segment(node, constant, as, px, py, pz, x, y, z)) break;
        } else this.segments.lift();
      }
      px = x;
      py = y;
      pz = z;
      pt = t;
      pa = a;
    }
    slots[this.slotZ] = nominalZ;
    // A ring with nothing cut out of it can be gone over again.
    const isWhole = path.isClosed && nozzle.moves - movesBefore >= last && this.keptOut.isEmpty && !node.z;
    if (isWhole) this.lastRing.keep(path, place, start, isBack);
    else this.lastRing.forget();
    if (node.fill && path.isClosed && !this.refusal) this.fill(node, node.fill, place, as, nominalZ);
    this.rise(nominalZ);
  }

  /** A segment's bead is that of its middle. */
  private between(t0: number, t1: number, a0: number, a1: number): void {
    const { slots } = this.scope;
    // Where a ring closes, t falls from 1 to 0 and the angle by a turn.
    const wraps = this.path.isClosed && Math.abs(t1 - t0) > 0.5;
    slots[this.slotT] = wraps ? (Math.max(t0, t1) + 1) / 2 : (t0 + t1) / 2;
    slots[this.slotA] = wraps ? (a0 + a1) / 2 + Math.PI : (a0 + a1) / 2;
  }

  private isWatched(field: string): boolean {
    if (this.watch(this.nozzle.moves)) return true;
    this.refusal ??= refuse(STOPPED, field);
    return false;
  }

  private fill(node: LayNode, fill: NonNullable<LayNode["fill"]>, place: Affine, as: LaidAs, z: number): void {
    const { slots } = this.scope;
    const { path, nozzle } = this;
    const bead = this.beadOf(node);
    if (!bead) return;
    const outline: Point[] = [];
    for (let i = 0; i < path.count - 1; i++) {
      const [x, y] = placed(place, path.x[i], path.y[i]);
      outline.push({ x, y });
    }
    const percent = fill.percent(slots);
    if (!(percent >= FILL_PERCENT.least && percent <= FILL_PERCENT.most)) {
      this.refusal ??= refuse(
        `A fill of ${plainNumber(percent)} % cannot be: 1 to 120 can.`,
        `${node.field}.fill.percent`,
      );
      return;
    }
    // As many beads side by side as fill the layer: by their cross-section and its height.
    const spacingMm = beadSpacingMm(bead.widthMm, Math.min(bead.widthMm, node.heightMm.at(slots)));
    const from = { x: nozzle.x, y: nozzle.y };
    const angle = fill.angle(slots);
    this.lastRing.forget();
    const strokes = fillOf({ outline, pattern: fill.pattern, angle, spacingMm, share: percent / 100, from });
    if (!strokes) {
      this.refusal ??= tooMuch("a fill can have: its beads are very thin for what they fill", `${node.field}.fill`);
      return;
    }
    // What is said of drawing back is said of the stroke: from line to line of its fill the way decides.
    const retract = as.retract === false ? false : null;
    const inner = { ...as, retract, kind: percent >= 100 ? MoveKind.solid : MoveKind.sparse };
    for (const points of strokes) {
      this.segments.lift();
      for (let i = 1; i < points.length; i++) {
        const [a, b] = [points[i - 1], points[i]];
        if (!this.segment(node, bead, inner, a.x, a.y, z, b.x, b.y, z)) return;
      }
    }
  }

  /** Where a ring touches the one laid last, the nozzle goes over that one to it and begins there; null where it does not. */
  private touchingStart(node: LayNode, place: Affine, as: LaidAs, z: number): number | null {
    const { path, nozzle } = this;
    if (!path.isClosed || node.start || node.z || as.retract !== null || nozzle.topMm === null) return null;
    if (this.sheet.optimise?.noNeedlessRetraction === false || this.sheet.optimise?.nearestStart === false) return null;
    if (Math.abs(nozzle.z - z) > 1e-6) return null;
    const touch = this.lastRing.touch(path, place, NEAR_BEADS * node.widthMm.at(this.scope.slots));
    if (!touch) return null;
    for (const { x, y } of this.lastRing.wayTo(touch.own)) nozzle.travel(x, y, z, 0, as);
    return touch.other;
  }

  /** Index of the point at which a stroke begins: of a ring the nearest to where the nozzle stands, or the one that is named. */
  private startOf({ start, z }: LayNode, place: Affine): number {
    const { path } = this;
    if (!path.isClosed) return 0;
    const last = path.count - 1;
    if (start) return ((Math.round(start(this.scope.slots) * last) % last) + last) % last;
    // What rises along the stroke rises from its beginning.
    if (this.sheet.optimise?.nearestStart === false || z?.changes) return 0;
    const { x: nx, y: ny } = this.nozzle;
    let best = 0;
    let least = Infinity;
    for (let i = 0; i < last; i++) {
      const dx = place.xx * path.x[i] + place.xy * path.y[i] + place.x - nx;
      const dy = place.yx * path.x[i] + place.yy * path.y[i] + place.y - ny;
      const far = dx * dx + dy * dy;
      if (far < least - 1e-9) {
        best = i;
        least = far;
      }
    }
    return best;
  }

  /** An open stroke among copies is run from the end that lies nearer. */
  private isEndNearer(place: Affine): boolean {
    const { path, nozzle } = this;
    const last = path.count - 1;
    if (path.isClosed || path.layerEveryMm > 0 || path.lifts.size > 0) return false;
    if (this.sheet.optimise?.nearestCopy === false) return false;
    const [ax, ay] = placed(place, path.x[0], path.y[0]);
    const [bx, by] = placed(place, path.x[last], path.y[last]);
    return (bx - nozzle.x) ** 2 + (by - nozzle.y) ** 2 < (ax - nozzle.x) ** 2 + (ay - nozzle.y) ** 2 - 1e-9;
  }

  /** Cross-section and speed of a whole stroke, where they do not change along it. */
  private constantBead(node: LayNode): BeadNow | null {
    const all: Along[] = [node.widthMm, node.heightMm, node.speedMmS, node.flow];
    if (node.filamentPerMm) all.push(node.filamentPerMm);
    const changes = all.some((one) => one.changes) || (this.path.layerEveryMm > 0 && all.some((one) => one.usesHeight));
    return changes ? null : this.beadOf(node);
  }

  private beadOf(node: LayNode): BeadNow | null {
    return this.orRefused(this.beads.of(node, this.waysHere()?.speedMmS ?? null));
  }

  private orRefused<T>(result: Result<T>): T | null {
    if (result.ok) return result.value;
    this.refusal ??= result;
    return null;
  }

  private segment(
    node: LayNode,
    constant: BeadNow | null,
    as: LaidAs,
    x0: number,
    y0: number,
    z0: number,
    x1: number,
    y1: number,
    z1: number,
  ): boolean {
    const bead = constant ?? this.beadOf(node);
    if (!bead || this.refusal) return false;
    const { moves } = this.nozzle;
    if (moves > MOST_MOVES) {
      this.refusal = tooMuch(`${MOST_MOVES.toLocaleString("en")} moves`, node.field);
      return false;
    }
    if (moves - this.watched > WATCH_EVERY_MOVES) {
      this.watched = moves;
      if (!this.isWatched(node.field)) return false;
    }
    this.segments.lay(bead, as, x0, y0, z0, x1, y1, z1);
    return true;
  }
}
