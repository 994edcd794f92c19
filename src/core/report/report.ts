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
import { HeaterRates, usualHeater, Waits, waitsOf } from "./waits";

export interface LayerReport {
  index: number;
  /** Height of its top, mm. */
  zMm: number;
  heightMm: number;
  seconds: number;
  /** Filament fed, mm. */
  filamentMm: number;
  /** Filament the fastest laying move asks for, mm/s. */
  peakFilamentMmS: number;
  /** Room its material takes, bed coordinates, mm. */
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
  /** Line (from 1) and byte where a change for this layer must stand. */
  insertLine: number;
  insertByte: number;
  /** Number in the comment that opens it. */
  marker?: number;
  /** Filament by tool, mm; only in programs of several tools. */
  tools?: [tool: number, mm: number][];
}

export interface Bounds {
  minX: number;
  minY: number;
  minZ: number;
  maxX: number;
  maxY: number;
  maxZ: number;
}

/** A report keeps so many changes of settings; a program can have millions. */
export const MOST_CHANGES = 5000;
/** Goes up whenever a report says more than before: an older one is made anew. */
export const REPORT_VERSION = 6;

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

/** The report of a program that has been read; with a head's shape it is also looked whether that would strike anything. */
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
  const layerReports: LayerReport[] = layers.map((layer) => ({
    index: layer.index,
    zMm: layer.zMm,
    heightMm: layer.heightMm,
    seconds: 0,
    filamentMm: 0,
    peakFilamentMmS: 0,
    minX: Infinity,
    maxX: -Infinity,
    minY: Infinity,
    maxY: -Infinity,
    insertLine: layer.insertLine + 1,
    insertByte: layer.insertByte,
    ...(layer.marker === undefined ? {} : { marker: layer.marker }),
  }));
  const isOfSeveral = tables.filamentPerToolMm.filter((mm) => mm > 0).length > 1;
  const tools = isOfSeveral ? toolsOfMoves(tables) : null;
  let total = 0;
  const bounds = emptyBounds();
  const run = new LaidRun();
  const travelBounds = emptyBounds();
  let x = 0;
  let y = 0;
  for (let i = 0; i < moves.count; i++) {
    total += seconds[i];
    const kind = moves.kind[i];
    const fromX = x;
    const fromY = y;
    x = moves.x[i];
    y = moves.y[i];
    if (kind === MoveKind.home) continue;
    extend(travelBounds, x, y, moves.z[i]);
    const index = moves.layer[i];
    if (index < 0) continue;
    const layer = layerReports[index];
    layer.seconds += seconds[i];
    if (!laysMaterial(kind)) continue;
    layer.filamentMm += moves.filamentMm[i];
    if (tools) addTo((layer.tools ??= []), tools[i], moves.filamentMm[i]);
    const length = Math.sqrt((x - fromX) * (x - fromX) + (y - fromY) * (y - fromY));
    const asked = run.asked(i, length, moves.filamentMm[i], moves.feedMmS[i]);
    if (asked > layer.peakFilamentMmS) layer.peakFilamentMmS = asked;
    if (x < layer.minX) layer.minX = x;
    if (fromX < layer.minX) layer.minX = fromX;
    if (x > layer.maxX) layer.maxX = x;
    if (fromX > layer.maxX) layer.maxX = fromX;
    if (y < layer.minY) layer.minY = y;
    if (fromY < layer.minY) layer.minY = fromY;
    if (y > layer.maxY) layer.maxY = y;
    if (fromY > layer.maxY) layer.maxY = fromY;
    extend(bounds, x, y, moves.z[i]);
    extend(bounds, fromX, fromY, moves.z[i]);
  }
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
      bounds: bounds.minX <= bounds.maxX ? bounds : null,
      travelBounds: travelBounds.minX <= travelBounds.maxX ? travelBounds : null,
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

function addTo(tools: [tool: number, mm: number][], tool: number, mm: number): void {
  const known = tools.find(([one]) => one === tool);
  if (known) known[1] += mm;
  else tools.push([tool, mm]);
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

function emptyBounds(): Bounds {
  return { minX: Infinity, minY: Infinity, minZ: Infinity, maxX: -Infinity, maxY: -Infinity, maxZ: -Infinity };
}

function extend(bounds: Bounds, x: number, y: number, z: number): void {
  if (x < bounds.minX) bounds.minX = x;
  if (x > bounds.maxX) bounds.maxX = x;
  if (y < bounds.minY) bounds.minY = y;
  if (y > bounds.maxY) bounds.maxY = y;
  if (z < bounds.minZ) bounds.minZ = z;
  if (z > bounds.maxZ) bounds.maxZ = z;
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

/** Specks never come to their speed; but a fine curve is laid of nothing else. */
const SPECK_MM = 1;

/** Filament that is asked for along what is laid without a break: short moves count as one, as soon as they are long enough together. */
class LaidRun {
  private last = -2;
  private lengthMm = 0;
  private filamentMm = 0;
  private feedMmS = Infinity;

  /** mm/s of filament; 0 for a speck. */
  asked(move: number, lengthMm: number, filamentMm: number, feedMmS: number): number {
    if (lengthMm > SPECK_MM) {
      this.begin();
      return (filamentMm / lengthMm) * feedMmS;
    }
    if (move !== this.last + 1) this.begin();
    this.last = move;
    this.lengthMm += lengthMm;
    this.filamentMm += filamentMm;
    if (feedMmS < this.feedMmS) this.feedMmS = feedMmS;
    if (this.lengthMm <= SPECK_MM) return 0;
    const asked = (this.filamentMm / this.lengthMm) * this.feedMmS;
    this.begin();
    return asked;
  }

  private begin(): void {
    this.lengthMm = 0;
    this.filamentMm = 0;
    this.feedMmS = Infinity;
  }
}

/** The comments that open the layers, as the page names them; figures only where they count. */
function markersOf({ shape, places }: MarkerSeries, layers: readonly Layer[]): ProgramReport["markers"] {
  const [first, last] = [places[0], places[places.length - 1]].map(({ value }) => (Number.isNaN(value) ? null : value));
  return { shape, first, last, countsFrom: layers.find(({ marker }) => marker !== undefined)?.marker ?? first };
}
