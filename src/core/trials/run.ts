/** One printed piece of a trial: the plan it was printed with, and what is known of each band as it stands on the piece. */
import type { Mark } from "../heightplan/marks";
import { resolveBands, ResolvedBand } from "../heightplan/plan";
import { layerTops } from "../heightplan/layer-grid";
import { planHeightMm } from "../heightplan/plan";
import { optionsOf } from "../options/option";
import { beadWidthFor } from "../printing/process";
import { isOfTwo } from "../reading/guide";
import type { BandOnPiece, Weights } from "../reading/score";
import { Verdict, verdict, VerdictRequest } from "../reading/verdict";
import { sayValue, settingFor, SettingKey, SettingValues } from "../settings";
import { HEIGHT_TOLERANCE_MM, plainNumber } from "../units";
import { trialKindFor } from ".";
import type { Trial } from "./trial";
import { primaryKey } from "./shown";
import type { Printer } from "../shelf/printer";

/** What was told and measured in a band. */
export interface BandTold {
  /** From 1. */
  band: number;
  /** Mean and standard deviation of what was measured of the nozzle, °C; null where nothing was. */
  meanC: number | null;
  spreadC: number | null;
  /** Share (0–1) of its height in which the nozzle was settled: as measured, else as expected. */
  settledShare: number;
}

export interface Run {
  id: number;
  trialId: number;
  /** The trial as it was printed, and the printer as it was. */
  trial: Trial;
  printer: Printer;
  spoolTitle: string;
  way: "link" | "card";
  jobId: number | null;
  /** How high the piece came; null if it was printed whole. */
  reachedMm: number | null;
  /** SHA-256 of the exact program. */
  hash: string;
  told: BandTold[];
  /** What was measured of the nozzle on the way up; empty for a piece from a card. */
  samples: { heightMm: number; nozzleC: number }[];
  /** What was changed by hand while it was printed. */
  byHand: Mark[];
  note: string;
  /** A simulated printer made it: there is a drawing of it to read. */
  isSimulated: boolean;
  /** ISO date. */
  printedAt: string;
  version: number;
}

/** One thing on the piece that is read: a band, or a value that stands beside others. */
export interface Unit extends BandOnPiece {
  /** As it is written on the piece. */
  label: string;
  settings: SettingValues;
  fromMm: number;
  toMm: number;
  /** The number of the band it was printed in; its own where bands are read. */
  inBand: number;
  /** Its place in the row, from 0, where every band is a row of values. */
  column?: number;
  /** Why it does not count; empty if it does. */
  why: string;
}

/** Less of a band's height than this settled tells nothing about its value. */
export const LEAST_SETTLED = 0.5;

/** The bands of a plan on whole layers. */
export function bandsOfTrial({ plan, firstLayerHeightMm, layerHeightMm }: Trial): ResolvedBand[] {
  return resolveBands(plan, layerTops(planHeightMm(plan), firstLayerHeightMm, layerHeightMm));
}

/** What is read on a run's piece, in the order of its bands. */
export function unitsOf(run: Pick<Run, "trial" | "printer" | "reachedMm" | "told" | "byHand">): Unit[] {
  const { trial, printer } = run;
  const key = primaryKey(trial, printer);
  const bands = bandsOfTrial(trial);
  const { sideBySide } = trial.plan;
  const kind = trialKindFor(trial.kind);
  const tracks = kind.tracksMm?.(optionsOf(kind.options, trial.options, printer));
  if (tracks) {
    const value = bands[0].settings[key] ?? settingFor(key).usual(printer, null);
    const units = tracks.map((wantedMm) => ({
      value,
      label: `${plainNumber(wantedMm, 2)} mm`,
      settings: {},
      wantedMm,
    }));
    return besideOneAnother(run, bands, units);
  }
  if (sideBySide && bands.every(({ settings }) => settings[key] === undefined)) {
    const { setting, values } = sideBySide;
    const units = values.map((value) => ({ value, label: sayValue(setting, value), settings: { [setting]: value } }));
    return besideOneAnother(run, bands, units);
  }
  if (sideBySide && isOfTwo(guideOf({ trial }).rule)) return cellsOf(run, bands, key, sideBySide);
  return bands.map((band) => {
    const settings = { ...band.settings, ...byHandIn(run.byHand, band) };
    const value = settings[key];
    const why = value === undefined ? "It has no value of its own." : whyNot(run, band);
    return {
      band: band.number,
      inBand: band.number,
      value: value ?? NaN,
      label: value === undefined ? "no value" : sayValue(key, value),
      settings,
      fromMm: band.fromMm,
      toMm: band.toMm,
      why,
      counts: why === "",
    };
  });
}

/** Every band a row, every value beside the others a cell of it; counted row by row from the bed. */
function cellsOf(
  run: Parameters<typeof unitsOf>[0],
  bands: ResolvedBand[],
  along: SettingKey,
  { setting, values }: NonNullable<Trial["plan"]["sideBySide"]>,
): Unit[] {
  return bands.flatMap((band, row) => {
    const settings = { ...band.settings, ...byHandIn(run.byHand, band) };
    const why = settings[along] === undefined ? "It has no value of its own." : whyNot(run, band);
    return values.map((value, column) => ({
      band: row * values.length + column + 1,
      inBand: band.number,
      value,
      along: settings[along],
      column,
      label: `${sayValue(setting, value)} at ${settings[along] === undefined ? "no value" : sayValue(along, settings[along])}`,
      settings: { ...settings, [setting]: value },
      fromMm: band.fromMm,
      toMm: band.toMm,
      why,
      counts: why === "",
    }));
  });
}

/** The setting that a reading finds: of a field, the one whose values stand side by side. */
export function soughtKey(trial: Trial, printer: Printer): SettingKey {
  const { sideBySide } = trial.plan;
  return sideBySide && isOfTwo(guideOf({ trial }).rule) ? sideBySide.setting : primaryKey(trial, printer);
}

/** Whether what is read stands side by side instead of one above the other: nothing of it is told by a height. */
export function isBeside({
  bands,
  trial: { plan },
}: {
  bands: readonly unknown[];
  trial: Pick<Trial, "plan">;
}): boolean {
  return plan.bands.length < 2 || bands.length !== plan.bands.length;
}

/** Units that stand side by side, all as high as the first band. */
function besideOneAnother(
  run: Pick<Run, "reachedMm">,
  [{ fromMm, toMm }]: ResolvedBand[],
  units: Pick<Unit, "value" | "label" | "settings" | "wantedMm">[],
): Unit[] {
  const why = reached(run, toMm) ? "" : "Not printed: the print stopped before it.";
  return units.map((unit, i) => ({ ...unit, band: i + 1, inBand: 1, fromMm, toMm, why, counts: why === "" }));
}

/** What all readings of a run say together. */
export function verdictOf(
  run: Pick<Run, "trial" | "printer">,
  units: readonly Unit[],
  readers: VerdictRequest["readers"],
  weights: Weights,
): Verdict {
  const guide = guideOf(run);
  return verdict({
    guide,
    setting: soughtKey(run.trial, run.printer),
    along: primaryKey(run.trial, run.printer),
    // JSON has no NaN: a band without a value of its own comes back as null.
    bands: units.filter(({ value }) => Number.isFinite(value)),
    readers,
    weights,
    wantedMm: guide.measure?.tells === "width" ? beadWidthFor(run.printer) : undefined,
    speedMmS: run.trial.fixed.printSpeed,
  });
}

const reached = ({ reachedMm }: Pick<Run, "reachedMm">, toMm: number) =>
  reachedMm === null || reachedMm >= toMm - HEIGHT_TOLERANCE_MM;

function whyNot(run: Pick<Run, "reachedMm" | "told" | "trial">, band: ResolvedBand): string {
  if (band.lastLayer < band.firstLayer) return "It has no layer.";
  if (!reached(run, band.toMm)) return "Not printed: the print stopped before it.";
  const told = run.told.find((one) => one.band === band.number);
  if (told && told.settledShare < LEAST_SETTLED)
    return `The nozzle was settled in ${Math.round(told.settledShare * 100)} % of it only.`;
  return "";
}

/** What was changed by hand below a band's middle holds in most of it. */
function byHandIn(marks: readonly Mark[], { fromMm, toMm }: ResolvedBand): SettingValues {
  const middle = (fromMm + toMm) / 2;
  const inside = marks.filter(({ heightMm }) => heightMm >= fromMm - HEIGHT_TOLERANCE_MM && heightMm <= middle);
  return Object.fromEntries(inside.map(({ setting, value }) => [setting, value]));
}

/** What was told and measured per band: samples of the nozzle by height, where a link took them. */
export function toldOf(
  trial: Trial,
  expectedShares: readonly number[],
  samples: readonly { heightMm: number; nozzleC: number }[] = [],
): BandTold[] {
  return bandsOfTrial(trial).map(({ number, fromMm, toMm, settings }, i) => {
    const own = samples.filter(({ heightMm }) => heightMm > fromMm && heightMm <= toMm + HEIGHT_TOLERANCE_MM);
    const expected = expectedShares[i] ?? 1;
    if (own.length === 0) return { band: number, meanC: null, spreadC: null, settledShare: expected };
    const mean = own.reduce((sum, { nozzleC }) => sum + nozzleC, 0) / own.length;
    const squares = own.reduce((sum, { nozzleC }) => sum + (nozzleC - mean) ** 2, 0);
    const wanted = settings.nozzleTemperature;
    const settled = own.filter(({ nozzleC }) => wanted === undefined || Math.abs(nozzleC - wanted) <= SETTLED_WITHIN_C);
    return {
      band: number,
      meanC: Math.round(mean * 10) / 10,
      spreadC: Math.round(Math.sqrt(squares / own.length) * 10) / 10,
      settledShare: wanted === undefined ? expected : settled.length / own.length,
    };
  });
}

/** A sensor of a hot end wavers by more than a model of it does, °C. */
const SETTLED_WITHIN_C = 2;

/** The criteria of a run's kind with their weights, as a reader is asked them. */
export const guideOf = (run: Pick<Run, "trial">) => trialKindFor(run.trial.kind).reads(run.trial.options);
