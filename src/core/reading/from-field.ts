/** The answer of a field: the least value across that is good, at the value along where that is least. */
import { settingFor, SettingKey } from "../settings";
import { clamp, plainNumber } from "../units";
import { fieldBelief } from "./belief/field-belief";
import { HIGH_SHARE, LOW_SHARE } from "./belief/piece-belief";
import { quantile, shareOf } from "./belief/summary";
import type { CriterionKey } from ".";
import type { Use } from "./criterion";
import type { Advice, Found } from "./found";
import { BAR, BEYOND_FROM, GOOD_FROM, TELLS_NOTHING } from "./from-marks";
import { sayChance, sayRange, sensible } from "./say";
import type { BandOnPiece, GivenMark } from "./score";

export interface FoundInField extends Found {
  /** The value along, and where it lies in 9 of 10. */
  along: number;
  alongFrom: number;
  alongTo: number;
  /** The chances that it lies below and above what was tried along; left out where that was not asked. */
  alongBelow?: number;
  alongAbove?: number;
  /** The chance that a cell is good, by its band. */
  good: Map<number, number>;
}

/** Null while marks lie on fewer than two values of either setting. */
export function fromField(
  cells: readonly BandOnPiece[],
  readers: readonly (readonly GivenMark[])[],
  uses: readonly Use<CriterionKey>[],
  settings: { across: SettingKey; along: SettingKey },
): FoundInField | null {
  const { lowest, highest, step } = settingFor(settings.across);
  const belief = fieldBelief(cells, readers, uses, { bar: BAR, lowest });
  if (!belief) return null;
  const { across, along } = belief;
  const least = Float64Array.from(belief.least).sort();
  const alongs = Float64Array.from(belief.alongAt).sort();
  const [low, high] = [quantile(least, LOW_SHARE), quantile(least, HIGH_SHARE)];
  const places = across.values.map(across.toX);
  const value = places.find((place) => shareOf(least, (x) => x <= place) >= GOOD_FROM) ?? Math.max(0, high);
  // Down to the last length that was tried and is not enough, nothing is known.
  const lastBad = places.findLast((place) => place < value - EXACT_X) ?? value;
  const chanceBelow = shareOf(least, (x) => x < -EDGE_X);
  const chanceAbove = shareOf(least, (x) => x > 1 + EDGE_X);
  const limit = (x: number) => clamp(across.toValue(x), lowest, highest);
  const fromValue = limit(Math.min(low, lastBad));
  const toValue = limit(Math.max(high, value));
  const advice: Advice =
    chanceAbove > BEYOND_FROM
      ? "higher"
      : chanceBelow > BEYOND_FROM
        ? "lower"
        : high - low > TELLS_NOTHING
          ? "mark-more"
          : toValue - fromValue <= step
            ? "keep"
            : "narrow";
  const alongValue = (share: number) => along.toValue(quantile(alongs, share));
  const { unit, decimals } = settingFor(settings.along);
  const [alongFrom, alongTo] = [alongValue(LOW_SHARE), alongValue(HIGH_SHARE)];
  return {
    value: across.toValue(Math.min(1, value)),
    fromValue,
    toValue,
    chanceBetween: (from, to) =>
      shareOf(least, (x) => across.toValue(x) >= from - 1e-9 && across.toValue(x) <= to + 1e-9),
    chanceBelow,
    chanceAbove,
    advice,
    tellsMost: null,
    others: [],
    curve: [],
    along: alongValue(0.5),
    alongFrom,
    alongTo,
    good: belief.good,
    why:
      advice === "higher"
        ? `${sayChance(chanceAbove)} that even the highest value that was tried is not enough anywhere.`
        : advice === "lower"
          ? `${sayChance(chanceBelow)} that less than the lowest value that was tried is enough.`
          : advice === "mark-more"
            ? `No value stands out: what is enough may be anywhere from ${sayRange(settings.across, fromValue, toValue)}.`
            : `The least is needed at ${plainNumber(sensible(settings.along, alongValue(0.5)), decimals)} ${unit} (from ${sayRange(settings.along, alongFrom, alongTo)}, in 9 of 10): ${sayRange(settings.across, fromValue, toValue)} there.`,
  };
}

const EDGE_X = 0.02;
const EXACT_X = 1e-9;
