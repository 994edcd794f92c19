/** Trial + printer + spool → finished program. Pure: the same input gives the same bytes in a worker and on the server. */
import { ByteWriter, writeMoves } from "../gcode/write";
import { laysMaterial, MoveKind, MoveTable } from "../gcode/moves";
import { layerTops } from "../heightplan/layer-grid";
import { planHeightMm, resolveBands, ResolvedBand } from "../heightplan/plan";
import { weaveBands } from "../heightplan/weave";
import { Point } from "../geometry/polygons";
import { filamentAreaMm2, filamentMassG } from "../material/bead";
import { limitsFor } from "../motion/limits";
import { layPrint } from "../printing/lay";
import { laidAreaMm2, Process, processFor } from "../printing/process";
import { slice, Slice } from "../printing/slices";
import { fillTemplate, TemplateValues } from "../printing/template";
import { Refusal } from "../result";
import { settingFor, SettingKey, settingKeys } from "../settings";
import { bedCentre, bedDepthMm, outsideBedMm, Printer } from "../shelf/printer";
import { Spool, spoolTitle } from "../shelf/spool";
import { SpecimenShape } from "../specimens/specimen";
import { plainNumber, roundTo, sayDuration } from "../units";
import { trialKindFor } from ".";
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
  /** The moves as they were meant; kinds are finer than what can be read back. */
  moves: MoveTable;
  layerStarts: number[];
  /** What could not be said in this printer's language, or stands in its templates. */
  refusals: (Refusal & { key?: SettingKey; band?: number })[];
}

/** Value as it is raised on the piece. */
export function bandLabels(trial: Trial): string[] {
  const { setting } = trialKindFor(trial.kind);
  return trial.plan.bands.map(({ settings }) => {
    const value = settings[setting];
    return value === undefined ? "" : plainNumber(value, settingFor(setting).decimals);
  });
}

const PRIME_MM = 50;
const PRIME_GAP_MM = 9;

/** Builds the whole program of a trial. */
export function buildTrial({ trial, printer, spool }: TrialInput): BuiltTrial {
  const kind = trialKindFor(trial.kind);
  const shape = kind.specimen.shape(trial.plan, bandLabels(trial));
  const tops = layerTops(planHeightMm(trial.plan), trial.firstLayerHeightMm, trial.layerHeightMm);
  const bands = resolveBands(trial.plan, tops);
  const process = processFor(printer, spool, trial);
  const limits = limitsFor(printer);
  const centre = bedCentre(printer);
  const slices = slice(shape, tops);
  const prime = primeLine(process, printer, centre, shape);
  const { moves, layerStarts, seconds: moveTimes } = layPrint(slices, process, centre, prime.to, limits);
  const refusals: BuiltTrial["refusals"] = [];

  const tool = 0;
  const woven = weaveBands(bands, printer, tool);
  refusals.push(...woven.refusals);
  const linesBefore = new Map(woven.byLayer);
  const say = (key: SettingKey, value: number): string[] => {
    const said = settingFor(key).say(value, printer, tool);
    if (said.ok) return said.value;
    if (!refusals.some((refusal) => refusal.key === key)) refusals.push({ ...said, key });
    return [];
  };
  const bandsVary = (key: SettingKey) => bands.some(({ settings }) => settings[key] !== undefined);

  const fixedFan = trial.fixed.fan;
  const linesBeforeMove = new Map<number, string>();
  // The fan starts behind the first layer, so that the piece sticks.
  if (!bandsVary("fan") && fixedFan !== undefined && tops.length > 1) {
    linesBefore.set(1, [...say("fan", fixedFan), ...(linesBefore.get(1) ?? [])]);
    const bridgeFan = Math.min(100, fixedFan * 2);
    if (bridgeFan !== fixedFan)
      coolBridges(moves, layerStarts, linesBeforeMove, say("fan", bridgeFan)[0], say("fan", fixedFan)[0]);
  }

  const nozzleFirst = bands[0]?.settings.nozzleTemperature ?? trial.fixed.nozzleTemperature ?? spool.labelMaxC;
  const bedFirst = bands[0]?.settings.bedTemperature ?? trial.fixed.bedTemperature ?? spool.bedC;
  const values: TemplateValues = {
    nozzleFirst,
    bedFirst,
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

  let seconds = 0;
  for (const second of moveTimes) seconds += second;
  let filamentMm = 0;
  for (let i = 0; i < moves.count; i++) if (laysMaterial(moves.kind[i])) filamentMm += moves.filamentMm[i];

  const out = new ByteWriter();
  for (const line of headerLines({ trial, printer, spool }, shape, bands, tops.length, seconds, filamentMm))
    out.line(line);
  for (const line of start.ok ? start.value : []) out.line(line);
  out.line("; positions absolute in mm, filament relative");
  out.line("G21");
  out.line("G90");
  out.line("M83");
  for (const line of say("fan", 0)) out.line(line);
  writePrime(out, process, prime);
  writeMoves(out, moves, layerStarts, { linesBefore, linesBeforeMove, tops, start: prime.to });
  out.line("; the print ends here");
  for (const line of end.ok ? end.value : []) out.line(line);
  return { bytes: out.take(), shape, slices, bands, moves, layerStarts, refusals };
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
  if (process.retractionMm > 0) {
    out.line(`G1 E${plainNumber(-process.retractionMm, 5)} F${Math.round(process.retractionMmS * 60)}`);
  }
}

/** What this is, a drawing of the piece, the plan as a table, and what it takes. */
function headerLines(
  { trial, printer, spool }: TrialInput,
  shape: SpecimenShape,
  bands: ResolvedBand[],
  layers: number,
  seconds: number,
  filamentMm: number,
): string[] {
  const kind = trialKindFor(trial.kind);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  const fixed = settingKeys
    .filter((key) => trial.fixed[key] !== undefined)
    .map(
      (key) =>
        `${settingFor(key).short} ${plainNumber(trial.fixed[key]!, settingFor(key).decimals)} ${settingFor(key).unit}`,
    );
  const varied = settingKeys.filter((key) => bands.some(({ settings }) => settings[key] !== undefined));
  const cost =
    spool.pricePerKg > 0 ? `, ${roundTo((massG / 1000) * spool.pricePerKg, 2).toFixed(2)} ${spool.currency}` : "";
  const rows = bands.map((band) => {
    const values = varied.map(
      (key) =>
        `${settingFor(key).short} ${plainNumber(band.settings[key] ?? NaN, settingFor(key).decimals)} ${settingFor(key).unit}`,
    );
    const from = plainNumber(band.fromMm).padStart(7);
    const to = plainNumber(band.toMm).padStart(7);
    return `${String(band.number).padStart(4)}  ${from} to ${to} mm  layers ${band.firstLayer + 1} to ${band.lastLayer + 1}  ${values.join(", ")}`;
  });
  return [
    `Cuchara: ${kind.label.toLowerCase()}, ${trial.name}`,
    `printer  ${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`,
    `spool    ${spoolTitle(spool)}, ${spool.material}, label ${spool.labelMinC} to ${spool.labelMaxC} °C`,
    `date     ${trial.updatedAt.slice(0, 10)}`,
    `layers   ${layers} of ${plainNumber(trial.layerHeightMm)} mm, the first ${plainNumber(trial.firstLayerHeightMm)} mm, counted from 1`,
    ...(fixed.length > 0 ? [`fixed    ${fixed.join(", ")}`] : []),
    `time     ${sayDuration(seconds)} without heating`,
    `filament ${roundTo(filamentMm / 1000, 2).toFixed(2)} m, ${roundTo(massG, 1).toFixed(1)} g${cost}`,
    "",
    `${kind.specimen.label}, seen from the front`,
    ...shape.drawing,
    "",
    "band  from            to            value, bottom first",
    ...rows,
    "",
  ].map((line) => (line === "" ? ";" : `; ${line.replace(/[\r\n]/g, " ")}`));
}
