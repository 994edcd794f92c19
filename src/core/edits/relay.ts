/**
 * Laying moves taken out of a program, and blocks of new ones put in where layers open. What lies between two moves that stay and held one
 * that went (travels, drawing back, giving back) becomes one straight way; commands between them stay where they are.
 */
import type { LineWords } from "../gcode/line-words";
import { MoveKind } from "../gcode/moves";
import type { LineObserver } from "../gcode/read";
import type { Line } from "../gcode/scan";
import { flowShare, MachineState } from "../machine/state";
import type { LayerReport } from "../report/report";
import { plainNumber } from "../units";
import type { LinePlace, LineSplices } from "./line-splice";
import type { MoveRewriter } from "./rewrite-moves";

/** How this file travels and draws back between two strands. */
export interface Ways {
  travelMmS: number;
  retractMm: number;
  retractMmS: number;
  /** It leaves drawing back to the firmware (G10, G11). */
  byFirmware: boolean;
}

/** Where nozzle and filament are, in the machine's millimetres. */
export interface Standing {
  x: number;
  y: number;
  z: number;
  drawnMm: number;
  isDrawn: boolean;
  feedMmMin: number;
  unitMm: number;
  relative: boolean;
  relativeE: boolean;
  offsetX: number;
  offsetY: number;
  offsetZ: number;
  /** As the program names it, in its unit. */
  e: number;
  tool: number;
  flowShare: number;
  speedShare: number;
}

/** Nearer than this no filament is drawn back, mm. Common practice, no source. */
const NEAR_MM = 2;
/** Commands behind which ways cannot be joined. */
const barriers = /^(T\d+|G28|G90|G91|G20|G21|G92)$/;

/** Where a block stands: the layer, and the line (from 0) in front of which it comes. */
export interface BlockPlace {
  index: number;
  line: number;
}

/** Writes a block; gives lines that stand behind it. */
export type BlockOf = (at: BlockPlace, pen: Pen) => readonly string[] | void;

/** Listens to a program and puts the splices of the changed one together. */
export class Relay implements LineObserver {
  /** What stands between the last move that stayed and now. */
  private gap: { from: Standing; lines: LinePlace[]; hasGone: boolean } | null = null;
  private now: Standing | null = null;
  /** The one before `now`, to be filled next. */
  private spare = {} as Standing;
  private nextBlock = 0;
  /** A layer that was to be changed counts its places from where the nozzle stands. */
  countsFromStanding = -1;

  /**
   * @param blocks where blocks are put in, rising: the layer, and the line (from 0) in front of which
   * @param goes whether the laying move on a line (from 0, rising) is taken out
   * @param blockOf lines put in there; they come back to where they began
   * @param rewriter hears the moves that stay
   */
  constructor(
    private readonly blocks: readonly { layer: LayerReport; line: number }[],
    private readonly ways: Ways,
    private readonly splices: LineSplices,
    private readonly goes: (line: number) => boolean,
    private readonly blockOf: BlockOf | null,
    private readonly rewriter: MoveRewriter | null,
  ) {}

  move(line: Line, kind: number, fedMm: number, feedBeforeMmMin: number, state: Readonly<MachineState>): void {
    this.open(line);
    const before = this.now;
    const { spare } = this;
    const lays = kind === MoveKind.print;
    const isGone = lays && this.goes(line.number);
    this.now = noteStanding(spare, state, drawnBehind(before?.drawnMm ?? 0, kind, fedMm));
    this.spare = before ?? ({} as Standing);
    if (lays && !isGone) {
      if (before && this.gap?.hasGone) this.join(line, before);
      this.gap = null;
    }
    // Ways that are joined later get lines of the rewriter's, too: they do no harm there.
    if (!isGone) this.rewriter?.move(line, kind, fedMm, feedBeforeMmMin, state);
    if (lays && !isGone) return;
    if (!this.gap && before) this.gap = { from: { ...before }, lines: [], hasGone: false };
    if (!this.gap) return;
    this.gap.hasGone ||= isGone;
    if (this.splices.takes(line))
      this.gap.lines.push({ startByte: line.startByte, endByte: line.endByte, number: line.number });
  }

  command(line: Line, code: string, words: LineWords, state: Readonly<MachineState>): void {
    this.open(line);
    if (this.gap && this.now && barriers.test(code)) {
      if (this.gap.hasGone) this.join(line, this.now);
      this.gap = null;
    }
    this.now = noteStanding(this.now ?? ({} as Standing), state, this.now?.drawnMm ?? 0);
    this.rewriter?.command(line, code, words, state);
  }

  /** The next block stands in front of this line: ways are joined up to here, and it is put in. */
  private open(line: Line): void {
    const block = this.blocks[this.nextBlock];
    if (!block || line.number < block.line) return;
    const { layer } = block;
    this.nextBlock++;
    if (!this.now) return;
    if (this.gap?.hasGone) this.join(line, this.now);
    this.gap = null;
    if (!this.blockOf) return;
    const pen = new Pen(this.ways, this.now);
    const behind = this.blockOf({ index: layer.index, line: block.line }, pen) ?? [];
    if (pen.lines.length === 0) return;
    if (this.now.relative) {
      if (this.countsFromStanding < 0) this.countsFromStanding = layer.index;
      return;
    }
    this.splices.before(line, [...pen.back(), ...behind], layer.index);
    this.rewriter?.goOn(this.now.feedMmMin);
  }

  private join(line: Line, to: Standing): void {
    const { from, lines } = this.gap!;
    const layer = this.blocks[Math.max(0, this.nextBlock - 1)].layer.index;
    for (const place of lines) this.splices.replacePassed(place, [], layer);
    const pen = new Pen(this.ways, from);
    pen.begin();
    this.splices.before(line, pen.back(to), layer);
    this.rewriter?.goOn(to.feedMmMin);
  }
}

export function standingOf(state: Readonly<MachineState>, drawnMm: number): Standing {
  return noteStanding({} as Standing, state, drawnMm);
}

/** Fills a standing in place: this is asked at every line. */
function noteStanding(at: Standing, state: Readonly<MachineState>, drawnMm: number): Standing {
  at.x = state.x;
  at.y = state.y;
  at.z = state.z;
  at.drawnMm = drawnMm;
  at.isDrawn = state.drawnBack;
  at.feedMmMin = state.feedMmMin;
  at.unitMm = state.unitMm;
  at.relative = state.relative;
  at.relativeE = state.relativeE;
  at.offsetX = state.offsetX;
  at.offsetY = state.offsetY;
  at.offsetZ = state.offsetZ;
  at.e = (state.e - state.offsetE) / state.unitMm;
  at.tool = state.tool;
  at.flowShare = flowShare(state as MachineState);
  at.speedShare = state.speedPercent / 100;
  return at;
}

/** Filament drawn back behind a move, mm. */
export function drawnBehind(drawnMm: number, kind: number, fedMm: number): number {
  if (kind === MoveKind.print) return 0;
  return Math.max(0, drawnMm - fedMm);
}

/** What blocks are drawn with. */
export interface Drawing {
  /** Lines that move nothing. */
  say(lines: readonly string[]): void;
  /** Goes to a place without laying anything. */
  goTo(x: number, y: number, z: number): void;
  /** Lays a straight line. @param filamentMm what reaches the nozzle @param feedMmS the feed as it is to be */
  layTo(x: number, y: number, filamentMm: number, feedMmS: number): void;
}

/** Writes lines from where the nozzle stands, with filament counted from where it stands. */
export class Pen implements Drawing {
  readonly lines: string[] = [];
  private at: Standing;
  private readonly start: Standing;

  constructor(
    private readonly ways: Ways,
    start: Standing,
  ) {
    this.start = start;
    this.at = { ...start };
  }

  /** Lines that move nothing. */
  say(lines: readonly string[]): void {
    if (lines.length === 0) return;
    this.begin();
    this.lines.push(...lines);
  }

  begin(): void {
    if (this.lines.length > 0) return;
    this.lines.push("; cuchara: laid anew");
    if (this.start.relative) this.lines.push("G90");
    if (!this.start.relativeE || this.start.relative) this.lines.push("M83");
  }

  /** Goes to a place without laying anything, over what stands in between. */
  goTo(x: number, y: number, z: number): void {
    this.begin();
    const farMm = Math.hypot(x - this.at.x, y - this.at.y);
    if (farMm > NEAR_MM) this.drawBack(this.ways.byFirmware ? 0 : this.ways.retractMm);
    if (z > this.at.z + 1e-6) this.lines.push(`G0 Z${this.z(z)}`);
    if (farMm > 1e-4) this.lines.push(`G0 X${this.x(x)} Y${this.y(y)} F${this.feed(this.ways.travelMmS)}`);
    if (z < this.at.z - 1e-6) this.lines.push(`G0 Z${this.z(z)}`);
    Object.assign(this.at, { x, y, z });
  }

  /** Lays a straight line. @param filamentMm what reaches the nozzle @param feedMmS the feed as it is to be */
  layTo(x: number, y: number, filamentMm: number, feedMmS: number): void {
    this.begin();
    this.giveBack();
    const { flowShare: flow, speedShare, unitMm } = this.at;
    const e = plainNumber(filamentMm / flow / unitMm, 5);
    this.lines.push(`G1 X${this.x(x)} Y${this.y(y)} E${e} F${this.feed(feedMmS / speedShare)}`);
    Object.assign(this.at, { x, y });
  }

  /** All lines, with everything as the file counts on it: where it stood when the pen began, or somewhere else. */
  back(to: Standing = this.start): string[] {
    // A file raises its nozzle itself before it lays: from above it comes to no harm.
    this.goTo(to.x, to.y, Math.max(to.z, this.at.z));
    if (this.at.z > to.z + 1e-6 && to !== this.start) this.lines.push(`G0 Z${this.z(to.z)}`);
    if (this.ways.byFirmware && to.isDrawn !== this.at.isDrawn) this.lines.push(to.isDrawn ? "G10" : "G11");
    else if (Math.abs(to.drawnMm - this.at.drawnMm) > 1e-4) this.feedFilament(this.at.drawnMm - to.drawnMm);
    if (to.relative) this.lines.push("G91");
    if (!to.relativeE) this.lines.push("M82", `G92 E${plainNumber(to.e, 5)}`);
    else if (to.relative) this.lines.push("M83");
    this.lines.push(`G1 F${plainNumber(to.feedMmMin / to.unitMm, 2)}`);
    return this.lines;
  }

  private drawBack(toMm: number): void {
    if (this.ways.byFirmware) {
      if (!this.at.isDrawn) this.lines.push("G10");
      this.at.isDrawn = true;
    } else if (this.at.drawnMm < toMm - 1e-4) {
      this.feedFilament(this.at.drawnMm - toMm);
      this.at.drawnMm = toMm;
    }
  }

  private giveBack(): void {
    if (this.at.isDrawn) this.lines.push("G11");
    this.at.isDrawn = false;
    if (this.at.drawnMm > 1e-4) this.feedFilament(this.at.drawnMm);
    this.at.drawnMm = 0;
  }

  private feedFilament(mm: number): void {
    this.lines.push(`G1 E${plainNumber(mm / this.at.unitMm, 5)} F${this.feed(this.ways.retractMmS)}`);
  }

  private x = (mm: number) => this.figure(mm - this.at.offsetX);
  private y = (mm: number) => this.figure(mm - this.at.offsetY);
  private z = (mm: number) => this.figure(mm - this.at.offsetZ);
  private feed = (mmS: number) => plainNumber((mmS * 60) / this.at.unitMm, this.at.unitMm === 1 ? 0 : 2);
  private figure = (mm: number) => plainNumber(mm / this.at.unitMm, this.at.unitMm === 1 ? 3 : 5);
}
