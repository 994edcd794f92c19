/** Trial + printer + spool → finished program. Pure: the same input gives the same bytes in a worker and on the server. */
import { laysMaterial, MoveTable } from "../gcode/moves";
import { ByteWriter, writeMoves } from "../gcode/write";
import { layerTops } from "../heightplan/layer-grid";
import { planHeightMm, resolveBands, ResolvedBand, SideBySide } from "../heightplan/plan";
import { followBands, Followed } from "../heightplan/planned";
import { limitsFor } from "../motion/limits";
import { LaidPrint, layPrint } from "../printing/lay";
import { Process, processFor } from "../printing/process";
import { slice, Slice } from "../printing/slices";
import { settingFor, SettingKey, settingKeys } from "../settings";
import { secondsOfMoves } from "../sheets/seconds";
import { bedCentre, Printer } from "../shelf/printer";
import { specimens } from "../specimens";
import { PieceShape } from "../specimens/specimen";
import { plainNumber } from "../units";
import { trialKindFor } from ".";
import { layFirstLayers } from "./first-layers";
import { headerLines } from "./header";
import type { AfterPrint } from "./kind";
import { OptionValues, optionsOf } from "../options/option";
import { primeLine, PrimeLine, restLines, writePrime } from "./prime";
import { roomOn } from "./room";
import { Sayings, TrialRefusal } from "./sayings";
import type { SheetPiece, SheetPieces } from "./sheet-piece";
import { endLines, startLines, templateValues } from "./start-and-end";
import { Trial, TrialInput } from "./trial";

export interface PrintFigures {
  layers: number;
  seconds: number;
  filamentMm: number;
}

export interface BuiltTrial {
  bytes: Uint8Array<ArrayBuffer>;
  shape: PieceShape;
  slices: Slice[];
  bands: ResolvedBand[];
  /** What is wanted layer by layer, with all that the kind makes of its bands. */
  followed: Followed;
  /** The moves as they were meant; kinds are finer than what can be read back. */
  moves: MoveTable;
  layerStarts: number[];
  /** What it takes, with what is done behind the print, without heating. */
  figures: PrintFigures;
  /** What could not be said in this printer's language, or stands in its templates. */
  refusals: TrialRefusal[];
}

/**
 * Builds the whole program of a trial.
 *
 * @param pieces what makes pieces of sheets; only trials on a sheet need it, and with it all that understands formulas
 *
 * @example
 * const { bytes, bands } = buildTrial({ trial, printer, spool });
 * bands.length === trial.plan.bands.length; // true
 * readProgram(bytes).layers.length > 10; // true
 */
export function buildTrial(input: TrialInput, pieces?: SheetPieces): BuiltTrial {
  const { trial, printer, spool } = input;
  const tool = Math.min(trial.tool, printer.tools - 1);
  const options = optionsFor(trial, printer);

  const usual = processOf(input, options);
  const own = pieceOfSheet(input, usual, pieces);
  const shape = own ? own.shape : shapeOf(trial, printer, options, usual);
  const process = { ...usual, seamNear: shape.seamNear };
  const tops = own ? Float64Array.from(own.tops) : topsOf(trial);
  const bands = resolveBands(trial.plan, tops);
  const followed = followTrial(input, bands, tops);
  const slices = slice(shape, tops);
  const kind = trialKindFor(trial.kind);
  const { fixed, layerHeightMm } = trial;
  const ofKind = kind.layerProcess?.({ followed, bands, tops, fixed, options, layerHeightMm }, process);
  const ofLayer = layerProcesses(ofKind ?? (() => process), followed);
  const prime = primeLine(process, printer, bedCentre(printer), shape);
  const laid = own ? printOf(own, printer) : layPiece(input, shape, slices, bands, ofLayer, prime);

  const after = kind.after?.(options, printer) ?? null;
  const figures = figuresOf(laid, tops.length, after);
  const sayings = new Sayings(printer, spool, tool);
  if (own?.refusal) sayings.refuse(own.refusal);
  const values = templateValues(trial, printer, spool, followed, tool, tops[tops.length - 1]);
  const out = new ByteWriter();
  const lines = (some: readonly string[]) => some.forEach((line) => out.line(line));
  lines(headerLines(input, shape, bands, figures));
  lines(startLines(printer, values, sayings));
  lines(["; positions absolute in mm, filament relative", "G21", "G90", "M83"]);
  lines(sayings.say("fan", followed.planned.fan?.[0] || 0));
  lines(sayings.atStart(trial));
  writePrime(out, ofLayer(0), prime);
  writeMoves(out, laid.moves, laid.layerStarts, {
    linesBefore: sayings.beforeLayers(bands, followed, tops.length),
    linesBeforeMove: own
      ? own.laid.linesBeforeMove
      : sayings.beforeMoves(laid.moves, laid.layerStarts, laid.spotStarts, followed, trial, options),
    tops,
    start: prime.to,
    firmwareRetraction: process.firmwareRetraction,
  });
  lines(["; the print ends here", ...restLines(laid.moves, ofLayer(tops.length - 1))]);
  lines(after?.lines ?? []);
  lines(sayings.atEnd(trial, followed));
  lines(endLines(printer, values, sayings));
  const { moves, layerStarts } = laid;
  return { bytes: out.take(), shape, slices, bands, followed, moves, layerStarts, figures, refusals: sayings.refusals };
}

/** The piece a trial has from its sheet; null for one that has none. */
function pieceOfSheet(input: TrialInput, process: Process, pieces: SheetPieces | undefined): SheetPiece | null {
  const { sheet } = input.trial;
  if (!sheet) return null;
  if (!pieces) throw new Error("A trial on a sheet is built with what makes pieces of sheets.");
  return pieces.sheetPiece(input, sheet, process);
}

/** The piece of a trial, cut into its layers. */
export function slicesOf(input: TrialInput, pieces?: SheetPieces): Slice[] {
  const { trial, printer } = input;
  const options = optionsFor(trial, printer);
  const process = processOf(input, options);
  const own = pieceOfSheet(input, process, pieces);
  if (own) return slice(own.shape, own.tops);
  return slice(shapeOf(trial, printer, options, process), topsOf(trial));
}

const topsOf = ({ plan, firstLayerHeightMm, layerHeightMm }: Trial): Float64Array =>
  layerTops(planHeightMm(plan), firstLayerHeightMm, layerHeightMm);

/** A sheet is laid as it says: small layers are not slowed down, and nothing stands side by side. */
function printOf({ laid: { moves, layerStarts } }: SheetPiece, printer: Printer): LaidPrint {
  return { moves, layerStarts, seconds: secondsOfMoves(moves, limitsFor(printer)), spotStarts: [] };
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

/** What is wanted in every layer: the bands, spread as the trial's kind has it, on first layers as the spool wants them. */
export function followTrial(
  { trial, printer, spool }: TrialInput,
  bands: readonly ResolvedBand[],
  tops: ArrayLike<number>,
): Followed {
  const { fixed, layerHeightMm, plan } = trial;
  const followed = followBands(bands, tops.length, plan.leadLayers);
  const { spread } = trialKindFor(trial.kind);
  spread?.({ followed, bands, tops, fixed, options: optionsFor(trial, printer), layerHeightMm });
  layFirstLayers(followed, { trial, printer, spool }, tops.length);
  return followed;
}

function optionsFor({ kind, options }: Trial, printer: Printer): OptionValues {
  return optionsOf(trialKindFor(kind).options, options, printer);
}

/** How the piece is printed: as the kind wants it, with the fixed values of settings that live inside the moves. */
function processOf({ trial, printer, spool }: TrialInput, options: OptionValues): Process {
  const usual = processFor(printer, spool, trial);
  const wanted = trialKindFor(trial.kind).process?.(usual, options) ?? usual;
  return insideKeys.reduce((process, key) => {
    const value = trial.fixed[key];
    return value === undefined ? process : settingFor(key).inside!.process(process, value);
  }, wanted);
}

function shapeOf(trial: Trial, printer: Printer, options: OptionValues, { beadWidthMm }: Process): PieceShape {
  return specimens[trialKindFor(trial.kind).specimen(options)].shape({
    plan: trial.plan,
    labels: bandLabels(trial, printer),
    options,
    layerHeightMm: trial.layerHeightMm,
    firstLayerHeightMm: trial.firstLayerHeightMm,
    beadWidthMm,
    room: roomOn(printer),
  });
}

function layPiece(
  { trial, printer }: TrialInput,
  shape: PieceShape,
  slices: Slice[],
  bands: readonly ResolvedBand[],
  ofLayer: (layer: number) => Process,
  prime: PrimeLine,
): LaidPrint {
  const { sideBySide } = trial.plan;
  return layPrint({
    slices,
    processOf: ofLayer,
    centre: bedCentre(printer),
    start: prime.to,
    limits: limitsFor(printer),
    spots: sideBySide ? shape.spots : undefined,
    order: shape.order,
    spotsFrom: bands[0]?.firstLayer,
    ofSpot: sideBySide && spotProcesses(sideBySide),
  });
}

/** How spots are laid whose values live inside the moves; undefined where they are all laid alike. Made once for each layer's process. */
function spotProcesses({ setting, values }: SideBySide): ((usual: Process, spot: number) => Process) | undefined {
  const { inside } = settingFor(setting);
  if (!inside) return undefined;
  const made = new Map<Process, Process[]>();
  return (usual, spot) => {
    const known = made.get(usual) ?? values.map((value) => inside.process(usual, value));
    made.set(usual, known);
    return known[spot] ?? usual;
  };
}

/** Settings that can live inside the moves. */
const insideKeys: SettingKey[] = settingKeys.filter((key) => settingFor(key).inside);

/** How each layer is laid; layers that want the same share one process. */
function layerProcesses(usual: (layer: number) => Process, { planned }: Followed): (layer: number) => Process {
  const wanted = insideKeys.filter((key) => planned[key]);
  if (wanted.length === 0) return usual;
  const kept = new Map<Process, Map<string, Process>>();
  return (layer) => {
    const process = usual(layer);
    const text = wanted.map((key) => planned[key]![layer]).join();
    const ofProcess = kept.get(process) ?? new Map<string, Process>();
    kept.set(process, ofProcess);
    let own = ofProcess.get(text);
    if (!own) {
      own = wanted.reduce((so, key) => {
        const value = planned[key]![layer];
        return value === undefined || Number.isNaN(value) ? so : settingFor(key).inside!.process(so, value);
      }, process);
      ofProcess.set(text, own);
    }
    return own;
  };
}

function figuresOf({ moves, seconds }: LaidPrint, layers: number, after: AfterPrint | null): PrintFigures {
  let total = after?.seconds ?? 0;
  for (const one of seconds) total += one;
  return { layers, seconds: total, filamentMm: laidFilamentMm(moves) + (after?.filamentMm ?? 0) };
}

function laidFilamentMm(moves: MoveTable): number {
  let mm = 0;
  for (let i = 0; i < moves.count; i++) if (laysMaterial(moves.kind[i])) mm += moves.filamentMm[i];
  return mm;
}
