/** What a reading says: a value, the values that cannot be told from it, how sure that is, and a sentence why. Formulas: docs/reading.md. */
import { settingFor, SettingKey } from "../settings";
import { clamp, roundTo } from "../units";
import { HIGHEST_MARK, Mark } from "./criterion";
import type { Advice, Found, Measured } from "./found";
import type { ReadingGuide, Rule } from "./guide";
import { bestValue } from "./rules/best";
import { FoundInField, fieldValue } from "./rules/field";
import { Resonance, resonanceOf } from "./rules/resonance";
import { nominalValue, proportionalValue } from "./rules/nominal";
import { leastValue, mostValue } from "./rules/threshold";
import { sensible } from "./say";
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
  fromValue: number | null;
  toValue: number | null;
  /** The value along that goes with it, for a field. */
  along?: { setting: SettingKey; value: number };
  /** How fast the frame swings, where ripples were measured. */
  resonance?: Resonance;
  sure: number;
  why: string;
  bands: { band: number; value: number; score: number | null; spread: number; counts: boolean }[];
  advice: Advice;
}

/** Fewer bands than this say nothing about what lies between them. */
const FEWEST_BANDS = 3;

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
  const { unit, lowest, highest, decimals } = settingFor(setting);
  const range = found && {
    low: Math.min(...bands.map(({ value }) => value)),
    high: Math.max(...bands.map(({ value }) => value)),
  };
  // A straight line may lead beyond what was tried; marks may not.
  const { low, high } = range && guide.rule !== "nominal" ? range : { low: lowest, high: highest };
  const fine = (value: number) => (guide.rule === "nominal" ? roundTo(value, decimals) : sensible(setting, value));
  const rounded = (value: number) => clamp(fine(value), low, high);
  return {
    rule: guide.rule,
    setting,
    unit,
    value: found ? rounded(found.value) : null,
    fromValue: found ? Math.min(rounded(found.fromValue), rounded(found.value)) : null,
    toValue: found ? Math.max(rounded(found.toValue), rounded(found.value)) : null,
    ...(found && "along" in found && request.along
      ? { along: { setting: request.along, value: sensible(request.along, found.along) } }
      : {}),
    ...(resonance ? { resonance } : {}),
    sure: found ? roundTo(clamp(found.sure, 0, 1), 2) : 0,
    why: found?.why ?? tooLittle(guide, scored),
    bands: scored.map(({ band, value, score, spread, counts }) => ({
      band,
      value,
      score: score === null ? null : roundTo(score, 2),
      spread: roundTo(spread, 2),
      counts,
    })),
    advice: found?.advice ?? "mark-more",
  };
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

function find(
  { guide, readers, wantedMm, weights, setting, along }: VerdictRequest,
  scored: ScoredBand[],
): Found | FoundInField | null {
  const told = scored.filter(({ counts, score }) => counts && score !== null);
  if (guide.rule === "nominal") {
    const measures = readers.flatMap((reader) => reader.measures);
    const { unit } = settingFor(setting);
    const found = scored.some((band) => band.wantedMm !== undefined)
      ? proportionalValue(scored, measures, unit)
      : wantedMm === undefined
        ? null
        : nominalValue(scored, measures, wantedMm, unit);
    if (found) return found;
  }
  if (guide.rule === "field") return along ? fieldValue(told, setting, along) : null;
  if (new Set(told.map(({ value }) => value)).size < FEWEST_BANDS) return null;
  if (guide.rule === "least") return leastValue(told, setting);
  if (guide.rule === "most") return mostValue(told, setting, weights.speed ?? 1);
  return bestValue(told, setting);
}

function tooLittle({ rule, measure }: ReadingGuide, scored: readonly ScoredBand[]): string {
  const toMeasure =
    rule === "nominal" && measure ? `Measure the ${measure.label.toLowerCase()} at two places at least` : "";
  // Where all were printed with one value, only lengths tell another.
  if (toMeasure && new Set(scored.map(({ value }) => value)).size < FEWEST_BANDS) return `${toMeasure}.`;
  const marked = scored.filter(({ counts, score }) => counts && score !== null).length;
  const more = Math.max(1, FEWEST_BANDS - marked);
  const toMark = `${toMeasure ? `${toMeasure}, or mark` : "Mark"} ${more} more band${more === 1 ? "" : "s"}`;
  return `${toMark}: fewer than ${FEWEST_BANDS} say nothing about what lies between.`;
}
