/** Lines in the place of others, and lines between them, gathered as splices: none that cannot be written back. */
import type { Finding } from "../findings/finding";
import type { EditedLine } from "../gcode/edited-line";
import type { Line, LineEnd } from "../gcode/scan";
import type { LayerReport } from "../report/report";
import { refuse, Result, succeed } from "../result";
import type { EditOutcome } from "./edit";
import { decodeLine, isPlain, isWhole } from "./line-text";
import { SpliceGatherer } from "./splices/gather";

/** Where a line stands; what the reader says of its own line must be copied to last. */
export type LinePlace = Pick<Line, "startByte" | "endByte" | "number">;

export class LineSplices {
  private readonly gathered: SpliceGatherer;
  private unreadable = 0;
  private firstNumbered = -1;

  constructor(
    private readonly lineEnd: LineEnd,
    /** Which edit they are of, as it is called on screen. */
    private readonly by: string,
    /** They come in the order of the lines. */
    { goesAlong = false }: { goesAlong?: boolean } = {},
  ) {
    this.gathered = new SpliceGatherer(goesAlong);
  }

  /**
   * Lines in the place of one, none to take it out; nothing where it stays as it is. A line that is no text (UTF-8) stays, and so does one
   * with a checksum of its own, which would not fit any more.
   */
  replace(line: Line, lines: readonly string[], layer: number): void {
    const text = decodeLine(line);
    if (lines.length === 1 && lines[0] === text) return;
    if (this.takes(line)) this.put(line, line.endByte - line.startByte, lines, layer);
  }

  /** A line with other figures in its words; nothing where they are what they were. */
  rewrite(line: Line, edited: EditedLine, layer: number): void {
    if (!edited.isChanged || !this.takes(line)) return;
    const bytes = this.gathered.goesAlong ? edited.lent(this.lineEnd) : edited.lent(this.lineEnd).slice();
    this.add(line, line.endByte - line.startByte, bytes, layer);
  }

  /** Whether a line can be changed at all; one that cannot is counted. */
  takes(line: Line): boolean {
    if (!isPlain(line) && !isWhole(decodeLine(line))) this.unreadable++;
    else if (line.ownChecksum >= 0) this.firstNumbered = this.firstNumbered < 0 ? line.number : this.firstNumbered;
    else return true;
    return false;
  }

  /** The same for a line that was passed before and is one it takes. */
  replacePassed(line: LinePlace, lines: readonly string[], layer: number): void {
    this.put(line, line.endByte - line.startByte, lines, layer);
  }

  /** How many there are. */
  get count(): number {
    return this.gathered.count;
  }

  before(line: Pick<Line, "startByte" | "number">, lines: readonly string[], layer: number): void {
    this.put(line, 0, lines, layer);
  }

  /** Lines where a layer opens, before its first travel. */
  opening({ insertByte, insertLine, index }: LayerReport, lines: readonly string[]): void {
    this.put({ startByte: insertByte, number: insertLine - 1 }, 0, lines, index);
  }

  private put(
    at: Pick<Line, "startByte" | "number">,
    removeBytes: number,
    lines: readonly string[],
    layer: number,
  ): void {
    if (removeBytes === 0 && lines.length === 0) return;
    this.add(at, removeBytes, lines.map((text) => text + this.lineEnd).join(""), layer);
  }

  private add(
    { startByte: atByte, number: line }: Pick<Line, "startByte" | "number">,
    removeBytes: number,
    insert: string | Uint8Array,
    layer: number,
  ): void {
    const removeLines = removeBytes > 0 ? 1 : 0;
    this.gathered.add({ atByte, removeBytes, removeLines, line, insert, layer: Math.max(0, layer), by: this.by });
  }

  /**
   * What comes of the edit; refused with a sentence where that is more than can be kept, or lines carry checksums.
   *
   * @param nothing what is to be said where no line changes @param mustAll one line that stays would spoil the rest
   */
  outcome(
    findings: readonly Finding[],
    { nothing, mustAll = false, planned }: { nothing?: Finding; mustAll?: boolean } & Pick<EditOutcome, "planned"> = {},
  ): Result<EditOutcome> {
    if (this.firstNumbered >= 0) {
      return refuse(
        `Line ${this.firstNumbered + 1} carries a checksum, which would not fit it any more: have the file written without line numbers.`,
      );
    }
    const left = `${this.unreadable} lines hold characters that are not valid UTF-8`;
    if (this.unreadable > 0 && mustAll) return refuse(`${left}, and can't be written back: the file stays unchanged.`);
    const all = [...findings];
    if (this.unreadable > 0) {
      all.push({
        check: "unreadable-lines",
        severity: "warn",
        where: "whole file",
        message: `${left}; they stay as they are.`,
      });
    }
    if (this.gathered.count === 0 && nothing) all.push(nothing);
    const splices = this.gathered.finish();
    if (!splices.ok) return splices;
    return succeed({ splices: splices.value, findings: all, ...(planned ? { planned } : {}) });
  }
}
