/** What a read program is: its tables, and the lines that other parts come back to. */
import { Layer } from "./layers";
import { MarkerSeries } from "./markers";
import { EventTable, MoveTable } from "./moves";

/** A line that Cuchara once put in. */
export interface CucharaLine {
  line: number;
  startByte: number;
  endByte: number;
  text: string;
}

/** A line that draws the filament back, or gives it back, without going anywhere. */
export interface RetractionLine {
  line: number;
  startByte: number;
  endByte: number;
  text: string;
  /** Index in the move table. */
  move: number;
  /** Filament, mm; negative when drawn back. */
  fedMm: number;
  /** E counts from a fixed zero (M82), so that only its end point is written. */
  absolute: boolean;
  /** Tool that makes it. */
  tool: number;
}

/** How a program draws back. */
export interface RetractionLines {
  lines: RetractionLine[];
  /** Draws back while it moves: such lines cannot be changed by themselves. */
  wiping: number;
  /** Leaves it to the firmware (G10). */
  byFirmware: number;
}

/** Everything a program says, in tables. */
export interface ProgramTables {
  lineCount: number;
  byteCount: number;
  lineEnd: "\n" | "\r\n";
  moves: MoveTable;
  events: EventTable;
  layers: Layer[];
  /** The comments that open the layers, if a pattern was found. */
  markers: MarkerSeries | null;
  /** Lines put in by an earlier plan. */
  cucharaLines: CucharaLine[];
  /** Filament fed per tool, mm; index is the tool. */
  filamentPerToolMm: number[];
  /** Commands that were passed over because this reader does not know them, with how often. */
  unknown: { command: string; count: number }[];
  /** Bytes that no text program holds (NUL and the like). */
  binaryBytes: number;
  overlongLines: number;
  /** Lines whose checksum does not fit. */
  damagedLines: number;
  /** How it draws back; null if the reader was not asked to keep that. */
  retractions: RetractionLines | null;
}
