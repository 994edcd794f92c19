/** A sheet as the piece of a trial: laid by the plan's bands, its own heights the layers. */
import { laysMaterial, MoveTable } from "../gcode/moves";
import { bandEdgesMm } from "../heightplan/plan";
import type { Point } from "../geometry/polygons";
import { distanceMm } from "../geometry/segments";
import { beadWidthMm, filamentAreaMm2 } from "../material/bead";
import { Process } from "../printing/process";
import type { Track } from "../printing/track";
import { refuse, Refusal, Result, succeed } from "../result";
import { settingFor, settingKeys, SettingKey, SettingValues } from "../settings";
import type { SheetBands, BandWays } from "../sheets/bands";
import { LaidSheet, laySheet } from "../sheets/lay-sheet";
import { waysOn } from "../sheets/program";
import type { Sheet } from "../sheets/sheet";
import { bedCentre, Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import type { PieceShape } from "../specimens/specimen";
import { plainNumber } from "../units";
import { trialKindFor } from ".";
import { primaryKey } from "./shown";
import type { Trial, TrialInput } from "./trial";

export interface SheetPiece {
  laid: LaidSheet;
  tops: number[];
  shape: PieceShape;
  /** Why it could not be laid; then it lays nothing. */
  refusal: Refusal | null;
}

/** The sheet laid for a trial. `process` is how the trial's fixed values would have any piece printed. */
export function sheetPiece({ trial, printer, spool }: TrialInput, sheet: Sheet, process: Process): SheetPiece {
  const bands = bandsFor(trial, printer, process);
  const laid = laySheet(sheet, { ...waysOn(printer, spool), ...waysOf(process) }, bands);
  const refusal = laid.ok ? whyNoPiece(laid.value.tops) : laid;
  if (!laid.ok || refusal) {
    const nothing = laySheet({ ...sheet, items: [] }, waysOn(printer, spool), bands);
    if (!nothing.ok) throw new Error(nothing.message);
    const tops = [trial.firstLayerHeightMm];
    const empty = { ...nothing.value, layerStarts: [0, 0], tops };
    return { laid: empty, tops, shape: shapeOf(sheet, empty, printer, spool), refusal };
  }
  return { laid: laid.value, tops: laid.value.tops, shape: shapeOf(sheet, laid.value, printer, spool), refusal: null };
}

/** Tops of the layers of a sheet that is laid with some bands' values; refused where it can be no piece of a trial. */
export function heightsOf(sheet: Sheet, printer: Printer, spool: Spool, values: number[]): Result<number[]> {
  // How high its bands are follows from this: until then all values stand at the bed.
  const laid = laySheet(sheet, waysOn(printer, spool), { edgesMm: values.map(() => 0), values });
  if (!laid.ok) return laid;
  return whyNoPiece(laid.value.tops) ?? succeed(laid.value.tops);
}

/** Whether a kind can be asked with a piece of one's own: its bands are to be told apart by their height alone. */
export function takesSheet(kindKey: Trial["kind"]): boolean {
  const { spread, after, tracksMm, layerProcess, needsOwnPiece } = trialKindFor(kindKey);
  return !spread && !after && !tracksMm && !layerProcess && !needsOwnPiece;
}

function whyNoPiece(tops: readonly number[]): Refusal | null {
  if (tops.length === 0) return refuse("The sheet lays nothing yet.", "items");
  const back = tops.findIndex((top, i) => i > 0 && top < tops[i - 1] - 1e-6);
  if (back < 0) return null;
  return refuse(
    `The sheet goes back down to ${plainNumber(tops[back], 2)} mm: a trial's piece grows layer by layer, so put what stands side by side into one repeat upwards.`,
    "items",
  );
}

const insideKeys: SettingKey[] = settingKeys.filter((key) => settingFor(key).inside);

const waysOf = ({ travelMmS, retractionMm, retractionMmS }: Process): BandWays => ({
  travelMmS,
  retractionMm,
  retractionMmS,
});

/** What a sheet's formulas call the values of a plan's bands: those of the setting that the trial is about, or those side by side. */
export function bandValues(trial: Pick<Trial, "kind" | "plan" | "options" | "fixed">, printer: Printer): number[] {
  if (trial.plan.sideBySide) return trial.plan.sideBySide.values;
  const key = primaryKey(trial, printer);
  return trial.plan.bands.map(({ settings }) => settings[key] ?? trial.fixed[key] ?? 0);
}

function bandsFor(trial: Trial, printer: Printer, process: Process): SheetBands {
  const { bands } = trial.plan;
  const waysIn = (settings: SettingValues): BandWays => {
    const wanted = insideKeys.filter((one) => settings[one] !== undefined);
    const own = wanted.reduce((so, one) => settingFor(one).inside!.process(so, settings[one]!), process);
    // A sheet has speeds of its own: only what the bands vary takes their place.
    return { ...waysOf(own), ...(settings.printSpeed === undefined ? {} : { speedMmS: own.outerWallMmS }) };
  };
  const values = bandValues(trial, printer);
  const isBeside = trial.plan.sideBySide !== undefined;
  return {
    // What stands side by side holds from the bed up.
    edgesMm: isBeside ? values.map(() => 0) : bandEdgesMm(trial.plan).slice(0, -1),
    values,
    ways: isBeside ? values.map(() => waysIn(bands[0].settings)) : bands.map(({ settings }) => waysIn(settings)),
    baseWays: waysOf(process),
  };
}

/** Outlines are drawn from so many stretches in all, at most; more are made simpler first. */
const MOST_STRETCHES = 12_000;

function shapeOf(sheet: Sheet, laid: LaidSheet, printer: Printer, spool: Spool): PieceShape {
  const { moves, tops } = laid;
  const centre = bedCentre(printer);
  let [halfX, halfY] = [0, 0];
  let laying = 0;
  for (let i = 1; i < moves.count; i++) {
    if (!laysMaterial(moves.kind[i])) continue;
    laying++;
    halfX = Math.max(halfX, Math.abs(moves.x[i] - centre.x), Math.abs(moves.x[i - 1] - centre.x));
    halfY = Math.max(halfY, Math.abs(moves.y[i] - centre.y), Math.abs(moves.y[i - 1] - centre.y));
  }
  const coarseMm = laying <= MOST_STRETCHES ? 0.05 : Math.min(2, (0.4 * laying) / MOST_STRETCHES);
  const area = filamentAreaMm2(spool.diameterMm);
  return {
    heightMm: tops[tops.length - 1] ?? 0,
    widthMm: 2 * halfX,
    depthMm: 2 * halfY,
    solidAt: () => [],
    tracksAt(zMm) {
      const layer = tops.findIndex((top) => top >= zMm - 1e-6);
      if (layer < 0) return [];
      const heightMm = tops[layer] - (tops[layer - 1] ?? 0);
      const range = [Math.max(1, laid.layerStarts[layer]), laid.layerStarts[layer + 1]] as const;
      return tracksIn(moves, range, { centre, area, heightMm, coarseMm });
    },
    drawing: [],
    legend: `A piece of one's own, the sheet “${sheet.name}”: its bands are told apart by their height.`,
    unlabelled: [],
  };
}

interface Seen {
  centre: Point;
  /** Cross-section of the filament, mm². */
  area: number;
  heightMm: number;
  /** Places nearer to one another than this are one. */
  coarseMm: number;
}

/** The beads of some moves as tracks round the bed's middle. */
function tracksIn(moves: MoveTable, [first, end]: readonly [number, number], seen: Seen): Track[] {
  const { centre, area, heightMm, coarseMm } = seen;
  const tracks: Track[] = [];
  let track: Track | null = null;
  for (let i = first; i < end; i++) {
    if (!laysMaterial(moves.kind[i])) {
      track = null;
      continue;
    }
    const from = { x: moves.x[i - 1] - centre.x, y: moves.y[i - 1] - centre.y };
    const to = { x: moves.x[i] - centre.x, y: moves.y[i] - centre.y };
    if (!track) {
      const lengthMm = Math.max(1e-3, distanceMm(from, to));
      const widthMm = beadWidthMm((moves.filamentMm[i] * area) / lengthMm, heightMm);
      track = { points: [from], widthMm };
      tracks.push(track);
    }
    const isLast = i + 1 === end || !laysMaterial(moves.kind[i + 1]);
    if (isLast || distanceMm(track.points[track.points.length - 1], to) >= coarseMm) track.points.push(to);
  }
  return tracks;
}

/** What `buildTrial` is given where a trial is on a sheet. */
export const sheetPieces = { sheetPiece };
export type SheetPieces = typeof sheetPieces;
