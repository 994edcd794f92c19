/**
 * Feeds and filament of single moves rewritten, everything else as it is. A feed is given back by a line of its own where the next move
 * would take it on, and filament that is counted from zero is named anew (G92) where the file's own figures go on.
 */
import { EditedLine } from "../gcode/edited-line";
import type { LineWords } from "../gcode/line-words";
import { laysMaterial } from "../gcode/moves";
import type { LineObserver } from "../gcode/read";
import type { Line } from "../gcode/scan";
import { USUAL_FILAMENT_MM2 } from "../material/bead";
import { flowShare, MachineState } from "../machine/state";
import { feedMmMinToMmS, plainNumber } from "../units";
import { LineSplices } from "./line-splice";
import type { PlaceFinder } from "./scope";

/** What becomes of a move: its feed and its filament, as shares of what they are. */
export interface Share {
  feed: number;
  flow: number;
}

export const asItIs: Share = { feed: 1, flow: 1 };

const X = 88;
const Y = 89;
const E = 69;
const F = 70;
const NOTHING_FED_MM = 1e-6;
/** Feeds closer than this are the same, mm/min. */
const SAME_FEED = 0.05;

/** Follows a program as it is read and puts what must change into the splices. */
export class MoveRewriter implements LineObserver {
  /** Feed that is in force in the changed program, mm/min; NaN where it is the file's own. */
  private feedMmMin = NaN;
  /** By how much the changed program's filament is ahead, in the program's unit. */
  private aheadE = 0;
  /** Most that is asked of the hot end by what was rewritten, mm³/s, and where. */
  readonly peak = { mm3S: 0, line: 0 };
  rewritten = 0;

  /**
   * @param shareOf what becomes of the move on a line (from 0, rising from call to call): of one that lays material, or goes to where the
   *   next begins
   * @param by the lines themselves are rewritten, or factors (M220, M221) are set round them
   */
  constructor(
    private readonly shareOf: (line: number, lays: boolean, travels: boolean) => Share,
    private readonly splices: LineSplices,
    private readonly place: PlaceFinder,
    private readonly by: "lines" | "factors" = "lines",
  ) {}

  move(line: Line, kind: number, fedMm: number, feedBeforeMmMin: number, state: Readonly<MachineState>): void {
    this.place.at(line.number);
    const lays = laysMaterial(kind);
    const share = this.shareOf(line.number, lays, !lays && this.travels(line, fedMm, state));
    this.hasLaid = lays;
    if (share.feed !== 1 || share.flow !== 1) this.rewritten++;
    this.notePeak(line.number, fedMm, share, state);
    if (this.by === "factors") this.setFactors(line, share, state);
    else this.rewrite(line, fedMm, feedBeforeMmMin, share, state);
  }

  /** Whether the move before lays material. */
  private hasLaid = false;

  /**
   * A way across the bed with the filament at rest. Lifts, wipes, drawing back and giving back have feeds of their own; the end of a bead
   * that is laid without filament goes on at the bead's.
   */
  private travels(line: Line, fedMm: number, { x, y }: Readonly<MachineState>): boolean {
    if (Math.abs(fedMm) > NOTHING_FED_MM || !(line.has(X) || line.has(Y))) return false;
    if (x === this.last.x && y === this.last.y) return false;
    const isBeadsEnd = this.hasLaid && !line.has(F) && !(line.commandCount > 0 && line.values[0] === 0);
    return !isBeadsEnd;
  }

  /** The changed program was put right in front of the next move: filament is named as the file does, and its feed in force. */
  goOn(feedMmMin: number): void {
    this.feedMmMin = feedMmMin;
    this.aheadE = 0;
  }

  command(line: Line, code: string, words: LineWords, state: Readonly<MachineState>): void {
    this.place.at(line.number);
    if (code === "G92" && (words.count === 0 || words.has("E"))) this.aheadE = 0;
    // What the file itself sets holds; ours are set again behind it where they are wanted.
    if (code === "M220") this.factors.feed = state.speedPercent;
    if (code === "M221") this.factors.flow = flowShare(state) * 100;
  }

  private rewrite(
    line: Line,
    fedMm: number,
    feedBeforeMmMin: number,
    share: Share,
    state: Readonly<MachineState>,
  ): void {
    const { unitMm } = state;
    const layer = this.place.layer;
    const hasFeed = line.has(F);
    const before: string[] = [];
    const isChanged = share.feed !== 1 || share.flow !== 1;
    if (isChanged) this.edited.take(line);
    const fed = fedMm / unitMm;
    const own = line.value(E);
    if (!Number.isNaN(own) && !state.relativeE && this.aheadE !== 0 && share.flow === 1) {
      before.push(`G92 E${plainNumber(own - fed, 5)}`);
      this.aheadE = 0;
    }
    if (share.flow !== 1 && !Number.isNaN(own)) {
      const more = fed * (share.flow - 1);
      this.edited.setFigure(this.edited.wordOf(E), state.relativeE ? own + more : own + this.aheadE + more, 5);
      if (!state.relativeE) this.aheadE += more;
    }
    const wanted = state.feedMmMin * share.feed;
    const inForce = hasFeed ? state.feedMmMin : Number.isNaN(this.feedMmMin) ? feedBeforeMmMin : this.feedMmMin;
    if (Math.abs(inForce - wanted) > SAME_FEED) {
      const decimals = wanted / unitMm < 200 ? 2 : 0;
      const word = share.feed === 1 ? -1 : this.edited.wordOf(F);
      if (word >= 0) this.edited.setFigure(word, wanted / unitMm, decimals);
      else if (share.feed !== 1) this.edited.add(F, plainNumber(wanted / unitMm, decimals));
      else before.push(`G1 F${plainNumber(wanted / unitMm, decimals)}`);
    }
    this.feedMmMin = wanted;
    if (before.length > 0) this.splices.before(line, before, layer);
    if (isChanged) this.splices.rewrite(line, this.edited, layer);
  }

  private readonly edited = new EditedLine();

  /** Factors in force in the changed program, %; NaN as long as they are the file's own. */
  private readonly factors = { feed: NaN, flow: NaN };

  private setFactors(line: Line, share: Share, state: Readonly<MachineState>): void {
    const lines: string[] = [];
    const set = (what: "feed" | "flow", own: number, command: string) => {
      const wanted = own * share[what];
      if (Math.abs((Number.isNaN(this.factors[what]) ? own : this.factors[what]) - wanted) < 0.01) return;
      lines.push(`${command} S${plainNumber(wanted, 1)}`);
      this.factors[what] = wanted;
    };
    set("feed", state.speedPercent, "M220");
    set("flow", flowShare(state) * 100, "M221");
    if (lines.length > 0) this.splices.before(line, lines, this.place.layer);
  }

  private last = { x: NaN, y: NaN };

  private notePeak(line: number, fedMm: number, share: Share, state: Readonly<MachineState>): void {
    const { x, y } = state;
    const lengthMm = Math.hypot(x - this.last.x, y - this.last.y);
    this.last = { x, y };
    // Where the move before it is not known its length is not, either; and the shortest say nothing about a steady flow.
    if (share === asItIs || !(lengthMm > 0.5) || fedMm <= 0) return;
    const speedMmS = feedMmMinToMmS(state.feedMmMin * share.feed) * (state.speedPercent / 100);
    const filament = fedMm * share.flow * flowShare(state);
    const mm3S = (filament / lengthMm) * USUAL_FILAMENT_MM2 * speedMmS;
    if (mm3S > this.peak.mm3S) Object.assign(this.peak, { mm3S, line });
  }
}
