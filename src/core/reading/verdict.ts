/** What a reading says: a value, the range that holds what is looked for, how sure that is, and a sentence why. Formulas: docs/reading.md. */
import { settingFor, SettingKey } from "../settings";
import { clamp, roundTo } from "../units";
import { HIGHEST_MARK, Mark } from "./criterion";
import type { Advice, Asking, Found, Measured, Other } from "./found";
import { fromField, FoundInField } from "./from-field";
import { nominalValue, proportionalValue } from "./from-lengths";
import { fromMarks } from "./from-marks";
import { fromSurface } from "./from-surface";
import { isOfTwo, ReadingGuide, Rule } from "./guide";
import { Resonance, resonanceOf } from "./resonance";
import { rangeOutwards, seenStep, sensible } from "./say";
import { BandOnPiece, GivenMark, scoreBands, ScoredBand, Weights } from "./score";

export interface VerdictRequest {
  guide: ReadingGuide;
  setting: SettingKey;
  /** The second setting of a field. */
  along?: SettingKey;
  bands: readonly BandOnPiece[];
  readers: readonly { marks: readonly GivenMark[]; measures: readonly Measured[] }[];
  weights: Weights;
  /** What a measured length should be, mm. */
  wantedMm?: number;
  /** The speed at which all was laid, where ripples are measured. */
  speedMmS?: number;
}

export interface Verdict {
  rule: Rule;
  setting: SettingKey;
  /** Null while nothing can be said. */
  value: number | null;
  unit: string;
  /** The range that holds what is looked for in 9 of 10; it may reach beyond what was tried. */
  fromValue: number | null;
  toValue: number | null;
  /** The value along that goes with it, for two settings, and where it lies in 9 of 10. */
  along?: {
    setting: SettingKey;
    value: number;
    fromValue: number;
    toValue: number;
    chanceBelow: number;
    chanceAbove: number;
  };
  /** How fast the frame swings, where ripples were measured. */
  resonance?: Resonance;
  /** The chance that what is looked for lies in the range; 0 while nothing can be said. */
  sure: number;
  /** The chances that it lies below the lowest value that was tried, and above the highest. */
  chanceBelow: number;
  chanceAbove: number;
  /** The answer not given yet that would tell most. */
  tellsMost: Asking | null;
  /** Places that look good besides. */
  others: Other[];
  /** How good it is along the values that were tried: the middle, and where it lies in 9 of 10, in marks. */
  curve: { value: number; low: number; middle: number; high: number }[];
  why: string;
  /** Of two settings, `good` is the chance that it is good enough (`field`), or about as good as the best (`surface`). */
  bands: { band: number; value: number; score: number | null; spread: number; counts: boolean; good?: number }[];
  advice: Advice;
}

/** Fewer bands than this say nothing about what lies between them. */
const FEWEST_BANDS = 3;
/** Of two settings each says something from its second value on. */
const FEWEST_OF_TWO = 2;

/**
 * The verdict on a piece from all that was marked and measured.
 *
 * @example
 * // One band was marked, and nothing is known of the others.
 * const bands = [195, 200, 205, 210].map((value, i) => ({ band: i + 1, value, counts: true }));
 * const readers = [{ marks: [{ band: 1, criterion: "strings", mark: 4 }], measures: [] }];
 * const guide = { rule: "best", uses: [{ key: "strings", weight: 1 }] };
 * verdict({ guide, setting: "nozzleTemperature", bands, readers, weights: {} }).advice; // "mark-more"
 */
export function verdict(request: VerdictRequest): Verdict {
  const { guide, setting, bands, readers, weights } = request;
  const scored = scoreBands(bands, readers.map(marksOf(guide)), guide.uses, weights);
  const resonance = resonanceFrom(request);
  const found = find(request, scored);
  const isTold = found !== null && !tellsTooLittle(request, scored);
  const told = isTold ? found : null;
  const { unit } = settingFor(setting);
  const range = told && rangeOf(request, told);
  return {
    rule: guide.rule,
    setting,
    unit,
    value: range?.value ?? null,
    fromValue: range?.fromValue ?? null,
    toValue: range?.toValue ?? null,
    ...(told && isInField(told) && request.along ? { along: alongOf(request.along, told) } : {}),
    ...(resonance ? { resonance } : {}),
    sure: told && range ? share(told.chanceBetween(range.fromValue, range.toValue)) : 0,
    chanceBelow: share(told?.chanceBelow ?? 0),
    chanceAbove: share(told?.chanceAbove ?? 0),
    tellsMost: found?.tellsMost ?? null,
    others: (told?.others ?? []).map((other) => ({
      value: sensible(setting, other.value),
      fromValue: sensible(setting, other.fromValue),
      toValue: sensible(setting, other.toValue),
      share: share(other.share),
    })),
    curve: (told?.curve ?? []).map((at) => ({
      value: roundTo(at.value, CURVE_DECIMALS),
      low: mark(at.low),
      middle: mark(at.middle),
      high: mark(at.high),
    })),
    why: told?.why ?? tooLittle(guide, scored),
    bands: scored.map(({ band, value, score, spread, counts }) => ({
      band,
      value,
      score: score === null ? null : roundTo(score, 2),
      spread: roundTo(spread, 2),
      counts,
      ...(told && isInField(told) && told.good.has(band) ? { good: share(told.good.get(band)!) } : {}),
    })),
    advice: told?.advice ?? "mark-more",
  };
}

const isInField = (found: Found | FoundInField): found is FoundInField => "along" in found;

function alongOf(setting: SettingKey, told: FoundInField): NonNullable<Verdict["along"]> {
  const { decimals } = settingFor(setting);
  const range = rangeOutwards(told.alongFrom, told.alongTo, seenStep(setting));
  return {
    setting,
    value: sensible(setting, told.along),
    fromValue: roundTo(range.from, decimals + 2),
    toValue: roundTo(range.to, decimals + 2),
    chanceBelow: share(told.alongBelow ?? 0),
    chanceAbove: share(told.alongAbove ?? 0),
  };
}

const CURVE_DECIMALS = 4;
const share = (chance: number) => roundTo(clamp(chance, 0, 1), 2);
const mark = (score: number) => roundTo(clamp(score, 0, HIGHEST_MARK), 2);

/** Value and range on steps that can be seen: the range rounded outwards, the value inside what was tried unless a straight line leads beyond. */
function rangeOf(
  { guide, setting, bands }: VerdictRequest,
  found: Found,
): { value: number; fromValue: number; toValue: number } {
  const { lowest, highest, decimals } = settingFor(setting);
  const isLength = guide.rule === "nominal" && found.curve.length === 0;
  const step = isLength ? 10 ** -decimals : seenStep(setting);
  const tried = bands.map(({ value }) => value);
  const ends = isLength ? [lowest, highest] : [Math.min(...tried), Math.max(...tried)];
  const on = (value: number, round: (steps: number) => number) => roundTo(round(value / step) * step, decimals + 2);
  // A value that was tried is named as it was.
  const isTried = tried.some((one) => Math.abs(one - found.value) < step * 1e-6);
  const value = isTried ? found.value : clamp(on(found.value, Math.round), ends[0], ends[1]);
  const range = rangeOutwards(found.fromValue, found.toValue, step);
  const [fromValue, toValue] = [range.from, range.to].map((end) => clamp(roundTo(end, decimals + 2), lowest, highest));
  return { value, fromValue: Math.min(fromValue, value), toValue: Math.max(toValue, value) };
}

/** What a reader marked; a measured sag is the mark of the bridge where none was given. */
const marksOf =
  ({ measure }: ReadingGuide) =>
  ({ marks, measures }: VerdictRequest["readers"][number]): readonly GivenMark[] => {
    if (measure?.tells !== "sag") return marks;
    const marked = new Set(marks.filter(({ criterion }) => criterion === "bridge").map(({ band }) => band));
    const fromSag = measures.flatMap(({ band, valuesMm }): GivenMark[] => {
      if (valuesMm.length === 0 || marked.has(band)) return [];
      const mean = valuesMm.reduce((sum, mm) => sum + mm, 0) / valuesMm.length;
      return [
        {
          band,
          criterion: "bridge",
          mark: clamp(Math.round(HIGHEST_MARK - mean / SAG_A_MARK_MM), 0, HIGHEST_MARK) as Mark,
        },
      ];
    });
    return [...marks, ...fromSag];
  };

/** A bridge that hangs so much farther is a mark worse. Common practice, no source. */
const SAG_A_MARK_MM = 0.5;

function resonanceFrom({ guide, readers, speedMmS }: VerdictRequest): Resonance | null {
  if (guide.measure?.tells !== "ripple" || speedMmS === undefined) return null;
  const lengths = readers.flatMap(({ measures }) => measures.flatMap(({ valuesMm }) => valuesMm));
  return resonanceOf(lengths.map((spacingMm) => ({ speedMmS, spacingMm })));
}

function find(request: VerdictRequest, scored: ScoredBand[]): Found | FoundInField | null {
  const { guide, readers, wantedMm, weights, setting, along, bands } = request;
  const marks = readers.map(marksOf(guide));
  if (guide.rule === "nominal") {
    const measures = readers.flatMap((reader) => reader.measures);
    const found = scored.some((band) => band.wantedMm !== undefined)
      ? proportionalValue(scored, measures, setting)
      : wantedMm === undefined
        ? null
        : nominalValue(scored, measures, wantedMm, setting);
    if (found) return found;
  }
  if (guide.rule === "field") return along ? fromField(bands, marks, guide.uses, { across: setting, along }) : null;
  if (guide.rule === "surface") {
    return along ? fromSurface({ guide, across: setting, along, cells: bands, readers: marks, weights }) : null;
  }
  return fromMarks({ guide, setting, bands, readers: marks, weights });
}

/** Whether marks lie on too few values to say anything about what lies between them. */
function tellsTooLittle({ guide, readers }: VerdictRequest, scored: readonly ScoredBand[]): boolean {
  if (
    guide.rule === "nominal" &&
    readers.some(({ measures }) => measures.some(({ valuesMm }) => valuesMm.length > 0))
  ) {
    return false;
  }
  const told = scored.filter(({ counts, score }) => counts && score !== null);
  return new Set(told.map(({ value }) => value)).size < (isOfTwo(guide.rule) ? FEWEST_OF_TWO : FEWEST_BANDS);
}

function tooLittle({ rule, measure }: ReadingGuide, scored: readonly ScoredBand[]): string {
  const toMeasure =
    rule === "nominal" && measure ? `Measure the ${measure.label.toLowerCase()} at two places at least` : "";
  // Where all were printed with one value, only lengths tell another.
  if (toMeasure && new Set(scored.map(({ value }) => value)).size < FEWEST_BANDS) return `${toMeasure}.`;
  const marked = scored.filter(({ counts, score }) => counts && score !== null).length;
  const more = Math.max(1, FEWEST_BANDS - marked);
  const toMark = `${toMeasure ? `${toMeasure}, or mark` : "Mark"} ${more} more band${more === 1 ? "" : "s"}`;
  return `${toMark}. At least ${FEWEST_BANDS} are needed for a result.`;
}
