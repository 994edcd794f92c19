/** What a finished program is, in figures: layers, time, room, filament, and its settings along the height. */
import type { Layer, PrintStart } from "../gcode/layers";
import type { MarkerSeries } from "../gcode/markers";
import { EventKind, laysMaterial, MoveKind } from "../gcode/moves";
import { AssumedE, ProgramTables } from "../gcode/read";
import { LineEnd } from "../gcode/scan";
import { LayerSettings, SettingChange, settingsByLayer, ToolSettings, toolsOfMoves } from "../heightplan/proof";
import { filamentAreaMm2 } from "../material/bead";
import { HeaterFigures, runHeater } from "../material/heat";
import { findStrikes, HeadShape, SteepMove, Strike } from "../motion/clearance";
import { MotionLimits, moveSeconds } from "../motion/duration";
import { SettingKey, settingKeys } from "../settings";
import { factsOf, ProgramFacts } from "./facts";
import { Bounds, LayerReport, layerSums } from "./layer-sums";
import { HeaterRates, usualHeater, Waits, waitsOf } from "./waits";

export type { Bounds, LayerReport } from "./layer-sums";

/** A report keeps so many changes of settings; a program can have millions. */
export const MOST_CHANGES = 5000;
/** Goes up whenever a report says more than before: an older one is made anew. */
export const REPORT_VERSION = 7;

export interface ProgramReport {
  version: number;
  facts: ProgramFacts;
  lines: number;
  bytes: number;
  lineEnd: LineEnd;
  layers: LayerReport[];
  /** Where the way to the first bead begins: in front of it stands the start. */
  printFrom: PrintStart;
  /** Room the material takes, mm; null if nothing is laid. */
  bounds: Bounds | null;
  /** Room the nozzle moves in, mm. */
  travelBounds: Bounds | null;
  /** Moving and dwelling; heating up and homing stand in `waits`. */
  seconds: number;
  waits: Waits;
  /** `lastLayer`: the last one the tool lays anything in, from 0. */
  filament: { tool: number; mm: number; lastLayer: number }[];
  /** The comments that open the layers: an example with `#` for the number, and how they count. */
  markers: { shape: string; first: number | null; last: number | null; countsFrom: number | null } | null;
  /** Values in force per layer; null where the program has not said anything. */
  settings: Record<SettingKey, (number | null)[]>;
  /** What each tool is set to when the first material is laid. */
  start: ToolSettings[];
  /** Changes of settings from the first layer on, the first `MOST_CHANGES` of them. */
  changes: SettingChange[];
  /** How many there are. */
  changeCount: number;
  /** How E was taken where a G90 could be read two ways; null where there is one reading only. */
  assumedE: AssumedE | null;
  /** It draws back by the firmware (G10) and never says how far. */
  retractionUnsaid: boolean;
  /** Line (from 1) from which on filament is counted by volume (M200); null where it is counted by length. */
  byVolume: number | null;
  /** How it draws back: by its own moves, by the firmware, or not at all. */
  retraction: "moves" | "firmware" | "none";
  /** Lines put in by an earlier plan. */
  cuchara: { line: number; startByte: number; endByte: number; text: string }[];
  /** Commands passed over because they are not known here. */
  unknown: { command: string; count: number }[];
  /** Lines whose checksum does not fit their text. */
  damagedLines: number;
  /** Where nozzle or head would strike what is printed already; null if nowhere, left out if nobody looked. */
  strike?: (Strike & PlaceInProgram) | null;
  /** A laying move steeper than the nozzle's cone, likewise. */
  steep?: (SteepMove & PlaceInProgram) | null;
  /** It was not looked at to the end: its moves are too long and too many. */
  clearanceGaveUp?: boolean;
}

/** Line from 1, layer from 0 (-1 outside the print), height in mm. */
export interface PlaceInProgram {
  line: number;
  layer: number;
  zMm: number;
}

export interface ReportDetails {
  report: ProgramReport;
  byLayer: LayerSettings;
  /** All changes of settings from the first layer on, however many. */
  changesInside: SettingChange[];
  /** Changes of settings in the whole program, before the first and behind the last layer too. */
  allChanges: SettingChange[];
  /** Seconds of every move. */
  seconds: Float32Array;
}

/**
 * The report of a program that has been read; with a head's shape it is also looked whether that would strike anything.
 *
 * @example
 * const tables = readProgram("M83\nG1 X10 Y10 Z0.2 F1800\nG1 X20 E0.3\n");
 * reportOf(tables, limitsFor(printer)).report.layers[0].filamentMm.toFixed(2); // "0.30"
 */
export function reportOf(
  tables: ProgramTables,
  limits: MotionLimits,
  head?: HeadShape,
  heater: HeaterRates = usualHeater,
): ReportDetails {
  const { moves, layers } = tables;
  const strikes = head ? findStrikes(moves, head) : null;
  const placed = <T extends { move: number }>(found: T): T & PlaceInProgram => ({
    ...found,
    line: moves.line[found.move] + 1,
    layer: moves.layer[found.move],
    zMm: moves.z[found.move],
  });
  const seconds = moveSeconds(moves, tables.events, limits);
  const { layers: layerReports, bounds, travelBounds, total } = layerSums(tables, seconds);
  const lastLayers = lastLayersByTool(tables);
  const { byLayer, changes, start } = settingsByLayer(tables);
  const inside = changes.filter(({ layer }) => layer >= 0 && layer < layers.length);
  return {
    report: {
      version: REPORT_VERSION,
      facts: factsOf(tables),
      lines: tables.lineCount,
      bytes: tables.byteCount,
      lineEnd: tables.lineEnd,
      layers: layerReports,
      printFrom: tables.printFrom,
      bounds,
      travelBounds,
      seconds: total,
      waits: waitsOf(tables, heater),
      filament: tables.filamentPerToolMm
        .map((mm, tool) => ({ tool, mm, lastLayer: lastLayers[tool] ?? -1 }))
        .filter(({ mm }) => mm > 0),
      markers: tables.markers && markersOf(tables.markers, layers),
      settings: Object.fromEntries(
        settingKeys.map((key) => [key, Array.from(byLayer[key], (value) => (Number.isNaN(value) ? null : value))]),
      ) as Record<SettingKey, (number | null)[]>,
      start,
      changes: inside.slice(0, MOST_CHANGES),
      changeCount: inside.length,
      assumedE: tables.assumedE,
      retractionUnsaid: tables.retractionUnsaid,
      byVolume: tables.byVolume === null ? null : tables.byVolume + 1,
      retraction: retractionOf(tables),
      cuchara: tables.cucharaLines.map(({ line, startByte, endByte, text }) => ({ line, startByte, endByte, text })),
      unknown: tables.unknown.sort((a, b) => b.count - a.count).slice(0, 20),
      damagedLines: tables.damagedLines,
      ...(strikes
        ? {
            strike: strikes.strike && placed(strikes.strike),
            steep: strikes.steep && placed(strikes.steep),
            ...(strikes.gaveUp ? { clearanceGaveUp: true } : {}),
          }
        : {}),
    },
    byLayer,
    changesInside: inside,
    allChanges: changes,
    seconds,
  };
}

/** How a program draws the filament back. */
function retractionOf({ moves, events, retractionUnsaid }: ProgramTables): ProgramReport["retraction"] {
  if (retractionUnsaid) return "firmware";
  if (!moves.kind.includes(MoveKind.retract)) return "none";
  // A program that says how far the firmware draws back leaves it to the firmware.
  return events.kind.includes(EventKind.firmwareRetractLength) ? "firmware" : "moves";
}

/** The last layer in which each tool lays anything. */
function lastLayersByTool(tables: ProgramTables): number[] {
  const { moves } = tables;
  const tools = toolsOfMoves(tables);
  const last: number[] = [];
  for (let i = 0; i < moves.count; i++) if (laysMaterial(moves.kind[i])) last[tools[i]] = moves.layer[i];
  return last;
}

/** The nozzle's temperature along the height. */
export interface HeatProfile {
  /** Per layer, °C; NaN where the program never sets it. */
  setC: Float64Array;
  /** Expected at the end of each layer, °C. */
  expectedC: Float32Array;
  /** Share of each layer's time in which the nozzle is within 1 °C of the set value. */
  settledShare: Float32Array;
}

/** Runs the heater model along the layers of a program, driven by the program's own timing. */
export function heatProfile(
  layers: Pick<LayerReport, "seconds" | "filamentMm">[],
  setC: Float64Array,
  heater: HeaterFigures,
  spool: { diameterMm: number; densityGCm3: number },
): HeatProfile {
  const gramsPerMm = (filamentAreaMm2(spool.diameterMm) * spool.densityGCm3) / 1000;
  let start = setC.find((value) => !Number.isNaN(value)) ?? 0;
  const steps = layers.map(({ seconds, filamentMm }, i) => {
    const set = Number.isNaN(setC[i]) ? start : setC[i];
    start = set;
    return { seconds, setC: set, flowGPerS: seconds > 0 ? (filamentMm * gramsPerMm) / seconds : 0 };
  });
  const { endC, settledShare } = runHeater(steps, heater, steps[0]?.setC ?? 0);
  return { setC, expectedC: endC, settledShare };
}

/** The comments that open the layers, as the page names them; figures only where they count. */
function markersOf({ shape, places }: MarkerSeries, layers: readonly Layer[]): ProgramReport["markers"] {
  const [first, last] = [places[0], places[places.length - 1]].map(({ value }) => (Number.isNaN(value) ? null : value));
  return { shape, first, last, countsFrom: layers.find(({ marker }) => marker !== undefined)?.marker ?? first };
}
