/** Reads a file for edits: its report, and its lines inside moves when an edit asks for them. */
import { LineObserver, ProgramTables, ProgramReader } from "../gcode/read";
import { MovingLine, MovingLineKeeper, MOST_MOVING_LINES } from "../gcode/moving-lines";
import { lastLayingLine, walkLines } from "../gcode/walk-lines";
import { readingOf } from "../machine/reading";
import { limitsFor } from "../motion/limits";
import { ProgramReport, reportOf } from "../report/report";
import { refuse, Result, succeed } from "../result";
import { headOf, Printer } from "../shelf/printer";
import { SeenFile } from "./edit";

/** The bytes of a file, as often as they are asked for. */
export type Chunks = () => Iterable<Uint8Array>;

/** Reads all chunks. The printer's way of reading counts where the file's own figures do not say otherwise. */
export function readChunks(
  chunks: Iterable<Uint8Array>,
  printer: Printer,
  { expectedBytes = 0, keeper }: { expectedBytes?: number; keeper?: LineObserver } = {},
  onRead: (bytes: number) => void = () => undefined,
): ProgramTables {
  const reader = new ProgramReader(expectedBytes, { reading: readingOf(printer), observer: keeper });
  for (const chunk of chunks) {
    reader.push(chunk);
    onRead(reader.byteCount);
  }
  return reader.finish();
}

/** The file as edits see it, from tables that were just read. Its changes are kept whole, for edits look at each of them. */
export function seeFile(tables: ProgramTables, chunks: Chunks, printer: Printer): SeenFile {
  const { report, changesInside } = reportOf(tables, limitsFor(printer), headOf(printer));
  return seenWith({ ...report, changes: changesInside }, chunks, printer, tables);
}

/** The file as edits see it, from a report that was kept. */
export function seenWith(report: ProgramReport, chunks: Chunks, printer: Printer, ofReport?: ProgramTables): SeenFile {
  let tables = ofReport;
  const kept = new Map<string, Result<MovingLine[]>>();
  let lastLine: number | null = null;
  return {
    report,
    walk: (visit, which) => walkLines(chunks(), visit, which),
    lastLayingLine: () => (lastLine ??= lastLayingLine(chunks())),
    tables: () => (tables ??= readChunks(chunks(), printer, { expectedBytes: report.bytes })),
    follow: (observer) => void readChunks(chunks(), printer, { keeper: observer }),
    stateBefore: (byte) => readChunks(upTo(chunks(), byte), printer).endState,
    movingLines(keeps) {
      let lines = kept.get(keeps);
      if (!lines) {
        const keeper = new MovingLineKeeper(keeps);
        readChunks(chunks(), printer, { keeper });
        lines = keeper.tooMany
          ? refuse(
              `This file has more than ${MOST_MOVING_LINES.toLocaleString("en")} lines that would have to be looked at: too many to rewrite them here.`,
            )
          : succeed(withLayers(keeper.lines, report));
        kept.set(keeps, lines);
      }
      return lines;
    },
  };
}

/** The first bytes of the chunks. */
function* upTo(chunks: Iterable<Uint8Array>, bytes: number): Generator<Uint8Array> {
  let left = bytes;
  for (const chunk of chunks) {
    if (left <= 0) return;
    yield chunk.subarray(0, left);
    left -= chunk.length;
  }
}

/** Each line's layer: the one whose opening place it stands behind. */
function withLayers(lines: MovingLine[], { layers }: ProgramReport): MovingLine[] {
  let layer = -1;
  for (const line of lines) {
    while (layer + 1 < layers.length && line.line >= layers[layer + 1].insertLine - 1) layer++;
    line.layer = layer;
  }
  return lines;
}
