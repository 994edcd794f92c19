/** What a read program is: its tables, and the lines that other parts come back to. */
import type { MachineState } from "../machine/state";
import { Layer, PrintStart } from "./layers";
import { MarkerSeries } from "./markers";
import { EventTable, MoveTable } from "./moves";
import type { SaidKinds } from "./said-kinds";
import type { SayingTable } from "./sayings";
import { LineEnd } from "./scan";

/** A line that Cuchara once put in. */
export interface CucharaLine {
  line: number;
  startByte: number;
  endByte: number;
  text: string;
}

/** How a program's E figures were taken where it could be read two ways, and where that came up. */
export interface AssumedE {
  /** Line from 0: a G90 behind M83. */
  line: number;
  /** E still counts from where it stands. */
  relative: boolean;
  /** The figures themselves tell; otherwise the printer's dialect was followed. */
  told: boolean;
}

/** Everything a program says, in tables. */
export interface ProgramTables {
  lineCount: number;
  byteCount: number;
  lineEnd: LineEnd;
  moves: MoveTable;
  events: EventTable;
  /** Lines that neither move nor set anything. */
  sayings: SayingTable;
  layers: Layer[];
  /** The comments that open the layers, if a pattern was found. */
  markers: MarkerSeries | null;
  printFrom: PrintStart;
  /** What its comments say of kinds of line. */
  saidKinds: SaidKinds;
  /** Lines put in by an earlier plan. */
  cucharaLines: CucharaLine[];
  /** Filament fed per tool, mm; index is the tool. */
  filamentPerToolMm: number[];
  /** Commands that were passed over because this reader does not know them, with how often. */
  unknown: { command: string; count: number }[];
  /** How many moves stood before the last of them that has a name of its own; -1 where there is none. */
  lastUnknownMove: number;
  /** Bytes that no text program holds (NUL and the like). */
  binaryBytes: number;
  overlongLines: number;
  /** Lines whose checksum does not fit. */
  damagedLines: number;
  /** Null where its E figures can be read one way only. */
  assumedE: AssumedE | null;
  /** It draws back by the firmware's own command without ever saying how far. */
  retractionUnsaid: boolean;
  /** Line (from 0) at which its filament begins to be counted by volume (M200); null where it is counted by length. */
  byVolume: number | null;
  /** What the machine holds when the program has ended. */
  endState: MachineState;
}
