/** Trial + printer + spool → finished program. Pure: the same input gives the same bytes in a worker and on the server. */
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";
import { ByteWriter, writeMoves } from "../gcode/write";
import { Point } from "../geometry/polygons";
import { layerTops } from "../heightplan/layer-grid";
import { planHeightMm, resolveBands, ResolvedBand } from "../heightplan/plan";
import { followBands, Followed } from "../heightplan/planned";
import { weaveBands } from "../heightplan/weave";
import { filamentAreaMm2 } from "../material/bead";
import { limitsFor } from "../motion/limits";
import { layPrint } from "../printing/lay";
import { laidAreaMm2, Process, processFor, processWith } from "../printing/process";
import { slice, Slice } from "../printing/slices";
import { fillTemplate, TemplateValues } from "../printing/template";
import { Refusal } from "../result";
import { settingFor, SettingKey, SettingValues } from "../settings";
import { bedCentre, bedDepthMm, outsideBedMm, Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";
import { SpecimenShape } from "../specimens/specimen";
import { plainNumber } from "../units";
import { trialKindFor } from ".";
import { headerLines } from "./header";
import { optionsOf } from "./option";
import { roomOn } from "./room";
import { Trial } from "./trial";

export interface TrialInput {
  trial: Trial;
  printer: Printer;
  spool: Spool;
}

export interface BuiltTrial {
  bytes: Uint8Array<ArrayBuffer>;
  shape: SpecimenShape;
  slices: Slice[];
  bands: ResolvedBand[];
  /** What is wanted layer by layer, with all that the kind makes of its bands. */
  followed: Followed;
  /** The moves as they were meant; kinds are finer than what can be read back. */
  moves: MoveTable;
  layerStarts: number[];
  /** What could not be said in this printer's language, or stands in its templates. */
  refusals: (Refusal & { key?: SettingKey; band?: number })[];
}

/** Value as it is raised on the piece. */
export function bandLabels(trial: Trial, printer: Printer): string[] {
  const kind = trialKindFor(trial.kind);
  const key = kind.setting(printer, optionsOf(kind.options, trial.options, printer));
  return trial.plan.bands.map(({ settings }) => {
    const value = settings[key];
    return value === undefined ? "" : plainNumber(value, settingFor(key).decimals);
  });
}

const PRIME_MM = 50;
const PRIME_GAP_MM = 9;
/** Settings that a start sequence says once, where they are held fixed. The others belong to templates, fan or moves. */
const saidAtStart: SettingKey[] = [
  "speedFactor",
  "flowFactor",
  "retractionLength",
  "retractionSpeed",
  "acceleration",
  "jerk",
  "junctionDeviation",
  "pressureAdvance",
];

/** Builds the whole program of a trial. */
export function buildTrial({ trial, printer, spool }: TrialInput): BuiltTrial {
  const kind = trialKindFor(trial.kind);
  const options = optionsOf(kind.options, trial.options, printer);
  const { plan, fixed } = trial;
  const tool = Math.min(trial.tool, printer.tools - 1);
  const usual = processFor(printer, spool, trial);
  const process = processWith(kind.process?.(usual, options) ?? usual, {
    printMmS: fixed.printSpeed,
    retractionMm: fixed.retractionLength,
    retractionMmS: fixed.retractionSpeed,
  });
  const shape = kind.specimen(options).shape({
    plan,
    labels: bandLabels(trial, printer),
    options,
    layerHeightMm: trial.layerHeightMm,
    firstLayerHeightMm: trial.firstLayerHeightMm,
    beadWidthMm: process.beadWidthMm,
    room: roomOn(printer),
  });
  const tops = layerTops(planHeightMm(plan), trial.firstLayerHeightMm, trial.layerHeightMm);
  const bands = resolveBands(plan, tops);
  const followed = followTrial(trial, printer, bands, tops);
  const centre = bedCentre(printer);
  const slices = slice(shape, tops);
  const prime = primeLine(process, printer, centre, shape);
  const sideBySide = plan.sideBySide;
  const { moves, layerStarts, seconds, spotStarts } = layPrint({
    slices,
    processOf: layerProcesses(process, followed),
    centre,
    start: prime.to,
    limits: limitsFor(printer),
    spots: sideBySide ? shape.spots : undefined,
    spotsFrom: bands[0]?.firstLayer,
    retractionsMm: sideBySide?.setting === "retractionLength" ? sideBySide.values : undefined,
  });
  const refusals: BuiltTrial["refusals"] = [];
  const woven = weaveBands(bands, followed, printer, tool);
  refusals.push(...woven.refusals);
  const linesBefore = new Map(woven.byLayer);
  const say = (key: SettingKey, value: number): string[] => {
    const said = settingFor(key).say(value, printer, tool);
    if (said.ok) return said.value;
    if (!refusals.some((refusal) => refusal.key === key)) refusals.push({ ...said, key });
    return [];
  };

  const linesBeforeMove = new Map<number, string>();
  // The fan starts behind the first layer, so that the piece sticks.
  if (!followed.planned.fan && fixed.fan !== undefined && tops.length > 1) {
    linesBefore.set(1, [...say("fan", fixed.fan), ...(linesBefore.get(1) ?? [])]);
    const bridgeFan = Math.min(100, fixed.fan * 2);
    if (bridgeFan !== fixed.fan)
      coolBridges(moves, layerStarts, linesBeforeMove, say("fan", bridgeFan)[0], say("fan", fixed.fan)[0]);
  }
  if (sideBySide) {
    for (const { move, spot } of spotStarts) {
      const value = sideBySide.values[spot];
      const lines = value === undefined ? [] : say(sideBySide.setting, value);
      if (lines.length > 0) linesBeforeMove.set(move, lines.join("\n"));
    }
  }

  const nozzleFirst = followed.planned.nozzleTemperature?.find((value) => !Number.isNaN(value));
  const bedFirst = followed.planned.bedTemperature?.find((value) => !Number.isNaN(value));
  const values: TemplateValues = {
    nozzleFirst: nozzleFirst ?? fixed.nozzleTemperature ?? spool.labelMaxC,
    bedFirst: bedFirst ?? fixed.bedTemperature ?? spool.bedC,
    tool,
    bedCentreX: centre.x,
    bedCentreY: centre.y,
    bedWidth: printer.bedWidthMm,
    bedDepth: bedDepthMm(printer),
    buildHeight: printer.buildHeightMm,
    topZ: tops[tops.length - 1],
    parkZ: Math.min(printer.buildHeightMm, tops[tops.length - 1] + 10),
    firstLayerHeight: trial.firstLayerHeightMm,
    layerHeight: trial.layerHeightMm,
    nozzleSize: printer.nozzleMm,
  };
  const start = fillTemplate(printer.startLines, values, "Start lines");
  const end = fillTemplate(printer.endLines, values, "End lines");
  if (!start.ok) refusals.push(start);
  if (!end.ok) refusals.push(end);

  const out = new ByteWriter();
  const figures = { layers: tops.length, seconds: sum(seconds), filamentMm: laidFilamentMm(moves) };
  for (const line of headerLines({ trial, printer, spool }, shape, bands, figures)) out.line(line);
  for (const line of start.ok ? start.value : []) out.line(line);
  out.line("; positions absolute in mm, filament relative");
  out.line("G21");
  out.line("G90");
  out.line("M83");
  for (const line of say("fan", 0)) out.line(line);
  for (const line of fixedLines(trial, printer, say)) out.line(line);
  for (const line of kind.linesBefore?.(options, printer) ?? []) out.line(line);
  writePrime(out, process, prime);
  writeMoves(out, moves, layerStarts, {
    linesBefore,
    linesBeforeMove,
    tops,
    start: prime.to,
    firmwareRetraction: process.firmwareRetraction,
  });
  out.line("; the print ends here");
  for (const line of restoringLines(trial, printer, followed, say)) out.line(line);
  for (const line of end.ok ? end.value : []) out.line(line);
  return { bytes: out.take(), shape, slices, bands, followed, moves, layerStarts, refusals };
}

/** What is wanted in every layer: the bands, spread as the trial's kind has it. */
export function followTrial(
  { kind: kindKey, plan, fixed, options, layerHeightMm }: Trial,
  printer: Printer,
  bands: readonly ResolvedBand[],
  tops: ArrayLike<number>,
): Followed {
  const kind = trialKindFor(kindKey);
  const followed = followBands(bands, tops.length, plan.leadLayers);
  kind.spread?.({ followed, bands, tops, fixed, options: optionsOf(kind.options, options, printer), layerHeightMm });
  return followed;
}

/** How each layer is laid; layers that wish for nothing share the usual process. */
function layerProcesses(process: Process, { planned }: Followed): (layer: number) => Process {
  const { printSpeed, retractionLength, retractionSpeed } = planned;
  if (!printSpeed && !retractionLength && !retractionSpeed) return () => process;
  const kept = new Map<string, Process>();
  return (layer) => {
    const wishes = {
      printMmS: printSpeed?.[layer],
      retractionMm: retractionLength?.[layer],
      retractionMmS: retractionSpeed?.[layer],
    };
    const key = `${wishes.printMmS},${wishes.retractionMm},${wishes.retractionMmS}`;
    let own = kept.get(key);
    if (!own) {
      own = processWith(process, wishes);
      kept.set(key, own);
    }
    return own;
  };
}

/** What the printer's page says it does when nothing else is said. */
function ownValues(printer: Printer): SettingValues {
  return {
    speedFactor: 100,
    flowFactor: 100,
    acceleration: printer.printAccelerationMmS2,
    jerk: printer.jerkMmS,
    junctionDeviation: printer.junctionDeviationMm,
    pressureAdvance: printer.pressureAdvanceS,
    retractionLength: printer.retractionMm,
    retractionSpeed: printer.retractionMmS,
  };
}

type Say = (key: SettingKey, value: number) => string[];

/** What is held fixed and has lines of its own; a firmware that draws back by itself is always told how far, for it may hold anything. */
function fixedLines({ fixed }: Trial, printer: Printer, say: Say): string[] {
  const own = ownValues(printer);
  const always = (key: SettingKey) =>
    printer.firmwareRetraction && (key === "retractionLength" || key === "retractionSpeed") ? own[key] : undefined;
  return saidAtStart.flatMap((key) => {
    const value = fixed[key] ?? always(key);
    return value === undefined ? [] : say(key, value);
  });
}

/** What the trial changed in the firmware, set back to what the printer's page says, so that no later print is spoiled. */
function restoringLines({ fixed, plan }: Trial, printer: Printer, { planned }: Followed, say: Say): string[] {
  const own = ownValues(printer);
  return saidAtStart.flatMap((key) => {
    const changed = planned[key] !== undefined || plan.sideBySide?.setting === key || fixed[key] !== undefined;
    return changed && own[key] !== undefined ? say(key, own[key]) : [];
  });
}

function sum(values: Float32Array): number {
  let total = 0;
  for (const value of values) total += value;
  return total;
}

function laidFilamentMm(moves: MoveTable): number {
  let mm = 0;
  for (let i = 0; i < moves.count; i++) if (laysMaterial(moves.kind[i])) mm += moves.filamentMm[i];
  return mm;
}

/** More fan for the strands over air, back to the usual behind them. */
function coolBridges(
  moves: MoveTable,
  layerStarts: number[],
  lines: Map<number, string>,
  more: string,
  usual: string,
): void {
  if (more === undefined || usual === undefined) return;
  let cooling = false;
  for (let i = 0; i < moves.count; i++) {
    const k = moves.kind[i];
    if (k === MoveKind.bridge && !cooling) {
      lines.set(i, more);
      cooling = true;
    } else if (cooling && laysMaterial(k) && k !== MoveKind.bridge && !bridgeSoon(moves, i)) {
      lines.set(i, usual);
      cooling = false;
    }
  }
  if (cooling) lines.set(layerStarts[layerStarts.length - 1] - 1, usual);
}

/** Whether a strand follows within a few moves: the fan is not worth switching for the way round at the edge. */
function bridgeSoon(moves: MoveTable, from: number): boolean {
  for (let i = from; i < Math.min(moves.count, from + 12); i++) if (moves.kind[i] === MoveKind.bridge) return true;
  return false;
}

interface PrimeLine {
  from: Point;
  to: Point;
}

/** Where the nozzle is filled: a line in front of the piece, inside the bed. */
function primeLine(process: Process, printer: Printer, centre: Point, shape: SpecimenShape): PrimeLine {
  const brimMm = process.brimRings * process.beadWidthMm;
  let y = centre.y - shape.depthMm / 2 - PRIME_GAP_MM - brimMm;
  const x = centre.x - PRIME_MM / 2;
  while (y < centre.y && (outsideBedMm(printer, x, y) > -2 || outsideBedMm(printer, x + PRIME_MM, y) > -2)) y += 1;
  return { from: { x, y }, to: { x: x + PRIME_MM, y } };
}

/** Lays the prime line and draws the filament back. */
function writePrime(out: ByteWriter, process: Process, { from, to }: PrimeLine): void {
  const z = process.firstLayerHeightMm;
  const area = laidAreaMm2(process, z, false) * 1.3;
  const fed = (PRIME_MM * area) / filamentAreaMm2(process.filamentDiameterMm);
  out.line("; prime the nozzle");
  out.line(`G0 X${plainNumber(from.x)} Y${plainNumber(from.y)} F${Math.round(process.travelMmS * 60)}`);
  out.line(`G0 Z${plainNumber(z)} F600`);
  out.line(`G1 X${plainNumber(to.x)} E${plainNumber(fed, 5)} F${Math.round(process.firstLayerMmS * 60)}`);
  if (process.firmwareRetraction) out.line("G10");
  else if (process.retractionMm > 0) {
    out.line(`G1 E${plainNumber(-process.retractionMm, 5)} F${Math.round(process.retractionMmS * 60)}`);
  }
}
