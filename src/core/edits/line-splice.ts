/** Lines in the place of others, and lines between them, gathered as splices: as many as a file may have, and none that cannot be written back. */
import type { Finding } from "../findings/finding";
import { MOST_SPLICES } from "../gcode/bounds";
import type { Line, LineEnd } from "../gcode/scan";
import type { LayerReport } from "../report/report";
import { refuse, Result, succeed } from "../result";
import type { EditOutcome } from "./edit";
import { decodeLine, isWhole } from "./line-text";
import type { Splice } from "./splice";

/** Where a line stands; what the reader says of its own line must be copied to last. */
export type LinePlace = Pick<Line, "startByte" | "endByte" | "number">;

export class LineSplices {
  readonly list: Splice[] = [];
  private tooMany = false;
  private unreadable = 0;
  private firstNumbered = -1;

  constructor(
    private readonly lineEnd: LineEnd,
    /** Which edit they are of, as it is called on screen. */
    private readonly by: string,
  ) {}

  /**
   * Lines in the place of one, none to take it out; nothing where it stays as it is. A line that is no text (UTF-8) stays, and so does one
   * with a checksum of its own, which would not fit any more.
   */
  replace(line: Line, lines: readonly string[], layer: number): void {
    const text = decodeLine(line);
    if (lines.length === 1 && lines[0] === text) return;
    if (this.takes(line)) this.put(line, line.endByte - line.startByte, lines, layer);
  }

  /** Whether a line can be changed at all; one that cannot is counted. */
  takes(line: Line): boolean {
    if (!isWhole(decodeLine(line))) this.unreadable++;
    else if (line.ownChecksum >= 0) this.firstNumbered = this.firstNumbered < 0 ? line.number : this.firstNumbered;
    else return true;
    return false;
  }

  /** The same for a line that was passed before and is one it takes. */
  replacePassed(line: LinePlace, lines: readonly string[], layer: number): void {
    this.put(line, line.endByte - line.startByte, lines, layer);
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
    if (this.list.length >= MOST_SPLICES) {
      this.tooMany = true;
      return;
    }
    if (removeBytes === 0 && lines.length === 0) return;
    this.list.push({
      atByte: at.startByte,
      removeBytes,
      removeLines: removeBytes > 0 ? 1 : 0,
      insert: lines.map((text) => text + this.lineEnd).join(""),
      line: at.number,
      layer: Math.max(0, layer),
      by: this.by,
    });
  }

  /**
   * What comes of the edit; refused with a sentence where there are too many lines, or lines with checksums.
   *
   * @param nothing what is to be said where no line changes @param mustAll one line that stays would spoil the rest
   */
  outcome(
    findings: readonly Finding[],
    { nothing, mustAll = false, planned }: { nothing?: Finding; mustAll?: boolean } & Pick<EditOutcome, "planned"> = {},
  ): Result<EditOutcome> {
    if (this.tooMany) {
      return refuse(`More than ${MOST_SPLICES.toLocaleString("en")} lines would change: too many to do that here.`);
    }
    if (this.firstNumbered >= 0) {
      return refuse(
        `Line ${this.firstNumbered + 1} carries a checksum, which would not fit it any more: have the file written without line numbers.`,
      );
    }
    const left = `${this.unreadable} lines hold letters that are no UTF-8`;
    if (this.unreadable > 0 && mustAll) return refuse(`${left}, and cannot be written back: the file stays as it is.`);
    const all = [...findings];
    if (this.unreadable > 0) {
      all.push({
        check: "unreadable-lines",
        severity: "warn",
        where: "whole file",
        message: `${left}; they stay as they are.`,
      });
    }
    if (this.list.length === 0 && nothing) all.push(nothing);
    return succeed({ splices: this.list, findings: all, ...(planned ? { planned } : {}) });
  }
}
