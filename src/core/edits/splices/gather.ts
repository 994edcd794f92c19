/** Splices gathered in whatever order they come to mind, and put in the order of their bytes. */
import { MOST_CHANGED_BYTES } from "../../gcode/bounds";
import { refuse, Result, succeed } from "../../result";
import { AnySplice, SpliceCursor, SplicePacker, SpliceSet } from "./packed";
import { ByteSplice, Splice } from "./splice";

/** So many wait for others that belong before them: edits go along with the file and look back a few lines. */
const WAITING = 4096;

/** What the figures of a splice take beside its text, mostly. */
const USUAL_FIGURES_BYTES = 8;
export const TOO_MUCH = "More would change than this program can keep of one file: take fewer lines, or fewer layers.";

type SplicePlace = Pick<AnySplice, "atByte" | "removeBytes">;

/** At one place insertions before removals. */
const inOrder = (a: SplicePlace, b: SplicePlace) =>
  a.atByte - b.atByte || Number(a.removeBytes > 0) - Number(b.removeBytes > 0);

/** A stretch of splices in order. One that belongs before what is packed already begins the next stretch. */
class Stretch {
  readonly packer = new SplicePacker();
  private waiting: AnySplice[] = [];
  private isSorted = true;
  /** The last one packed. */
  private readonly packed = { atByte: -1, removeBytes: 0 };

  /** @param most so many wait; none if those that come are packed at once */
  constructor(private readonly most: number) {}

  takes(splice: AnySplice): boolean {
    return inOrder(this.packed, splice) <= 0;
  }

  add(splice: AnySplice): void {
    if (this.most === 0) return this.packNow(splice);
    const { waiting } = this;
    if (waiting.length > 0 && inOrder(waiting[waiting.length - 1], splice) > 0) this.isSorted = false;
    waiting.push(splice);
    if (waiting.length >= 2 * this.most) this.pack(this.most);
  }

  finish(): SpliceSet {
    this.pack(Infinity);
    return this.packer.finish();
  }

  private pack(most: number): void {
    if (!this.isSorted) this.waiting.sort(inOrder);
    this.isSorted = true;
    const gone = this.waiting.slice(0, most);
    this.waiting = this.waiting.slice(most);
    for (const splice of gone) this.packNow(splice);
  }

  private packNow(splice: AnySplice): void {
    this.packer.add(splice);
    this.packed.atByte = splice.atByte;
    this.packed.removeBytes = splice.removeBytes;
  }
}

export class SpliceGatherer {
  private readonly stretches: Stretch[] = [];
  count = 0;
  /** What they take, about. */
  private bytes = 0;

  /**
   * @param goesAlong those that come are in order, nearly all of them; their bytes need not last
   * @param mostBytes what comes beyond is not taken, and then the set is refused
   */
  constructor(
    readonly goesAlong = false,
    private readonly mostBytes = MOST_CHANGED_BYTES,
  ) {}

  add(splice: AnySplice): void {
    this.count++;
    this.bytes += splice.insert.length + USUAL_FIGURES_BYTES;
    if (this.bytes > this.mostBytes) return;
    // Of two at one place the one that came first stands first: it lies in the same stretch or in one before it.
    let at = 0;
    while (at < this.stretches.length && !this.stretches[at].takes(splice)) at++;
    if (at === this.stretches.length) this.stretches.push(new Stretch(this.goesAlong ? 0 : WAITING));
    this.stretches[at].add(splice);
  }

  /** The set of all of them; refused if that is more than can be kept, and with the names of both edits if two of them change the same bytes. */
  finish(): Result<SpliceSet> {
    if (this.bytes > this.mostBytes) return refuse(TOO_MUCH);
    const sets = this.stretches.map((stretch) => stretch.finish());
    const set = sets.length === 1 ? sets[0] : merged(sets);
    const conflict = conflictIn(set);
    return conflict === null ? succeed(set) : refuse(conflict);
  }
}

/**
 * The set of some splices of one program: in the order of its bytes. Refused with the names of both edits if two of them change the same bytes.
 *
 * @example
 * const change = { atByte: 4, removeBytes: 5, removeLines: 1, insert: "M104 S215\n", line: 1, by: "heat" };
 * spliceSet([change]).value.count; // 1
 * spliceSet([change, { ...change, by: "fan" }]).message; // "“heat” and “fan” both change line 2."
 */
export function spliceSet(splices: readonly Splice[]): Result<SpliceSet> {
  const gatherer = new SpliceGatherer();
  for (const splice of splices) gatherer.add(splice);
  return gatherer.finish();
}

/** Those splices of a set that are wanted. */
export function filtered(set: SpliceSet, isWanted: (splice: ByteSplice) => boolean): SpliceSet {
  const packer = new SplicePacker();
  const cursor = new SpliceCursor(set);
  while (cursor.next()) if (isWanted(cursor)) packer.add(cursor);
  return packer.finish();
}

/** Sets put together in order; of two splices at one place that of the earlier set comes first. */
function merged(sets: readonly SpliceSet[]): SpliceSet {
  const packer = new SplicePacker();
  let cursors = sets.map((set) => new SpliceCursor(set)).filter((cursor) => cursor.next());
  while (cursors.length > 0) {
    const first = cursors.reduce((least, cursor) => (inOrder(cursor, least) < 0 ? cursor : least));
    packer.add(first);
    if (!first.next()) cursors = cursors.filter((cursor) => cursor !== first);
  }
  return packer.finish();
}

function conflictIn(set: SpliceSet): string | null {
  const cursor = new SpliceCursor(set);
  let until = 0;
  let by = "";
  while (cursor.next()) {
    if (cursor.atByte < until) {
      const both = by === cursor.by ? `“${by}” changes` : `“${by}” and “${cursor.by}” both change`;
      return `${both} line ${cursor.line + 1}${by === cursor.by ? " twice" : ""}.`;
    }
    until = cursor.atByte + cursor.removeBytes;
    by = cursor.by;
  }
  return null;
}
