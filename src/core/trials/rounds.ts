/** What first rounds share: values held fixed, and bands that fit under the printer's highest Z. */
import { mostOf, ruleOf } from "../material/rules";
import { dialects } from "../machine/dialects";
import { Band, HeightPlan } from "../heightplan/plan";
import { laidAreaMm2, processFor } from "../printing/process";
import { SettingKey, settingFor, settingKeys, SettingValues } from "../settings";
import { Printer } from "../shelf/printer";
import { clamp, plainNumber, roundTo } from "../units";
import { RoundRequest } from "./kind";

/** A fan's percentage on this printer: one without duty is off or on. */
export function fanFor(printer: Printer, percent: number): number {
  if (dialects[printer.dialect].fanHasDuty) return percent;
  return percent > 50 ? 100 : 0;
}

/** The temperature to print at: the kept one, or the middle of the label. */
export function nozzleFor({ printer, spool, kept }: RoundRequest): number {
  const middle = settingFor("nozzleTemperature").usual(printer, spool);
  return Math.min(kept.nozzleTemperature ?? middle, printer.highestNozzleC);
}

/** Fast enough that acceleration and corners show. */
const MOTION_TRIAL_MM_S = 80;

/** The speed at which motion is tried: the kept one or 80 mm/s, as far as axes and hot end come along. */
export function motionTrialMmS({ printer, spool, kept, ...heights }: RoundRequest): number {
  const wanted = kept.printSpeed ?? Math.min(MOTION_TRIAL_MM_S, mostOf(spool.material, "printSpeed"));
  const flow =
    (0.9 * printer.highestFlowMm3S) / laidAreaMm2(processFor(printer, spool, heights), heights.layerHeightMm, false);
  return Math.min(wanted, printer.highestFeedXyMmS, flow >= 1 ? Math.floor(flow) : flow);
}

/** The values that the spool's material bears, and what is said of those it does not. */
export function borne({ spool: { material } }: RoundRequest, key: SettingKey, values: number[]): Fitted {
  const rule = ruleOf(material, key);
  const within = rule ? values.filter((value) => value <= rule.most) : values;
  if (!rule || within.length === values.length) return { values, notes: [] };
  const { unit } = settingFor(key);
  const note = `${material} ${rule.because}: nothing above ${plainNumber(rule.most)} ${unit} is tried.`;
  return { values: within.length > 0 ? within : [rule.most], notes: [note] };
}

/** Values to try, and a sentence for each reason why they are not the usual ones. */
export interface Fitted {
  values: number[];
  notes: string[];
}

/** What is held fixed: kept values first, then label and printer. The settings in `varied` are left out. */
export function usualFixed(
  request: RoundRequest,
  varied: readonly SettingKey[],
  change: SettingValues = {},
): SettingValues {
  const { printer, spool, kept } = request;
  const fixed: SettingValues = {
    nozzleTemperature: nozzleFor(request),
    bedTemperature: Math.min(kept.bedTemperature ?? spool.bedC, printer.highestBedC),
    fan: fanFor(printer, kept.fan ?? spool.fanPercent),
  };
  for (const key of settingKeys) {
    const value = kept[key];
    if (value !== undefined && fixed[key] === undefined && settingFor(key).say(value, printer, 0).ok)
      fixed[key] = value;
  }
  Object.assign(fixed, change);
  for (const key of varied) delete fixed[key];
  return fixed;
}

export interface Stack {
  key: SettingKey;
  /** Bottom first. */
  values: number[];
  /** About how high a band is; it comes out as whole layers. */
  bandMm: number;
  /** Below this a band shows nothing: rather fewer of them. */
  lowestBandMm: number;
}

/** About how thick a base is, mm: solid from bottom to top, so that what stands on it stands on no void, and thin enough to cost little. */
const BASE_MM = 0.6;
const FEWEST_BASE_LAYERS = 3;

/** The base's height, mm: whole layers, three at least. */
export function baseHeightMm({ layerHeightMm, firstLayerHeightMm }: RoundRequest): number {
  const further = Math.max(FEWEST_BASE_LAYERS - 1, Math.round((BASE_MM - firstLayerHeightMm) / layerHeightMm));
  return roundTo(firstLayerHeightMm + further * layerHeightMm, 4);
}

/** A height as whole layers, rounded by `round`, one at least. */
function wholeLayers(mm: number, layerHeightMm: number, round: (layers: number) => number): number {
  return roundTo(Math.max(1, round(mm / layerHeightMm + 1e-6)) * layerHeightMm, 4);
}

/**
 * A plan of one band a value; base and bands are whole layers, so that every edge falls between two. On a low printer the bands get thinner,
 * then fewer; both are said.
 */
export function stackBands(request: RoundRequest, stack: Stack): { plan: HeightPlan; notes: string[] } {
  const { printer, layerHeightMm } = request;
  const notes: string[] = [];
  const base = baseHeightMm(request);
  const room = printer.buildHeightMm - base - 1;
  let { values } = stack;
  const most = Math.max(1, Math.floor(room / stack.lowestBandMm));
  if (values.length > most) {
    notes.push(
      `${printer.name} is ${plainNumber(printer.buildHeightMm)} mm high: ${most} bands instead of ${values.length}.`,
    );
    values = evenly(values, most);
  }
  const usualMm = wholeLayers(stack.bandMm, layerHeightMm, Math.round);
  const bandMm = Math.min(usualMm, wholeLayers(room / values.length, layerHeightMm, Math.floor));
  if (bandMm < usualMm) {
    notes.push(
      `${printer.name} is ${plainNumber(printer.buildHeightMm)} mm high: bands of ${plainNumber(bandMm)} mm instead of ${plainNumber(usualMm)} mm.`,
    );
  }
  const bands: Band[] = values.map((value) => ({ heightMm: bandMm, settings: { [stack.key]: value } }));
  return { plan: { baseHeightMm: base, bands }, notes };
}

/** `count` of the values, both ends among them. */
function evenly(values: number[], count: number): number[] {
  if (count <= 1) return values.slice(0, 1);
  return Array.from({ length: count }, (_, i) => values[Math.round((i * (values.length - 1)) / (count - 1))]);
}

/** From `low` to `high` in even steps, both ends included. */
export function steps(low: number, high: number, step: number, decimals = 4): number[] {
  const values: number[] = [];
  for (let i = 0; low + i * step < high - step * 0.01; i++) values.push(roundTo(low + i * step, decimals));
  values.push(roundTo(high, decimals));
  return values;
}

/** Values around one, by factors, rounded to something that can be read on the piece. */
export function around(
  value: number,
  factors: readonly number[],
  roundToStep: number,
  low: number,
  high: number,
): number[] {
  const rounded = factors.map((factor) =>
    clamp(roundTo(Math.round((value * factor) / roundToStep) * roundToStep, 4), low, high),
  );
  return rounded.filter((one, i) => i === 0 || one > rounded[i - 1]);
}
