/** The next round where it tells most for what it takes, with what it is expected to narrow. */
import { widthsAfter } from "../reading/foresee";
import { isOfTwo } from "../reading/guide";
import { finestStep } from "../reading/say";
import type { VerdictRequest, Verdict } from "../reading/verdict";
import type { Weights } from "../reading/score";
import { Result, succeed } from "../result";
import { roundTo } from "../units";
import { settingFor } from "../settings";
import type { Effort } from "./effort";
import { nextRound, valuesOf, withValues } from "./next-round";
import type { OnPair } from "./round-ends";
import { guideOf, Run, Unit } from "./run";
import { primaryKey } from "./shown";
import type { Trial } from "./trial";

export interface PlacedRound {
  plan: Trial["plan"];
  /** How wide the range is expected to be after it, in the setting's unit; null where that cannot be said beforehand. */
  narrowsTo: number | null;
}

/** What the next round would try, what it is expected to narrow, and what it takes. */
export interface ForeseenRound extends Omit<Effort, "kind"> {
  values: number[];
  /** How wide the range is now, and is expected to be then, in the setting's unit; null where that cannot be said. */
  width: number;
  narrowsTo: number | null;
}

/** A piece as it was printed and read, and what that says. */
export interface ReadPiece {
  run: Pick<Run, "trial" | "printer">;
  units: readonly Unit[];
  readers: VerdictRequest["readers"];
  weights: Weights;
  verdict: Verdict;
  /** Null where it is not known any more. */
  spool: OnPair["spool"];
}

/** Rounds of fewer values over the same range are looked at, too: they take less. */
const FEWER = [5, 7];
/** Of rounds that narrow about as much the smallest is taken. */
const ABOUT_AS_MUCH = 1.1;

/** Refused, with the reason, where there is nothing finer to ask. */
export function placedRound({ run, units, readers, weights, verdict, spool }: ReadPiece): Result<PlacedRound> {
  const { trial, printer } = run;
  const on: OnPair = { printer, spool };
  const usual = nextRound(trial, on, verdict);
  if (!usual.ok) return usual;
  const guide = guideOf({ trial });
  // What lengths tell is narrowed by more of them, and a field both ways: neither is foreseen.
  if (isOfTwo(guide.rule) || guide.rule === "nominal") return succeed({ plan: usual.value, narrowsTo: null });
  const setting = primaryKey(trial, printer);
  const whole = valuesOf({ ...trial, plan: usual.value }, setting);
  const isInside = verdict.advice === "narrow" || verdict.advice === "keep";
  const rounds = [whole, ...(isInside ? FEWER.flatMap((count) => sparser(whole, count, setting)) : [])];
  const bands = units.filter(({ value }) => Number.isFinite(value));
  const widths = widthsAfter({ guide, setting, bands, readers: readers.map(({ marks }) => marks), weights }, rounds);
  if (!widths) return succeed({ plan: usual.value, narrowsTo: null });
  const least = Math.min(...widths);
  const enough = rounds
    .map((values, i) => ({ values, width: widths[i] }))
    .filter(({ width }) => width <= ABOUT_AS_MUCH * least)
    .reduce((best, one) => (one.values.length < best.values.length ? one : best));
  const plan =
    enough.values === whole ? usual.value : withValues({ ...trial, plan: usual.value }, setting, enough.values);
  return succeed({ plan, narrowsTo: roundTo(enough.width, settingFor(setting).decimals + 1) });
}

/** Fewer values from one end to the other, on steps that can be seen; none where there are no fewer. */
function sparser(values: readonly number[], count: number, setting: Parameters<typeof finestStep>[0]): number[][] {
  if (count >= values.length) return [];
  const grid = finestStep(setting) / 2;
  const { decimals } = settingFor(setting);
  const [first, last] = [values[0], values[values.length - 1]];
  const some = Array.from({ length: count }, (_, i) =>
    i === count - 1
      ? last
      : roundTo(first + Math.round(((last - first) * i) / (count - 1) / grid) * grid, decimals + 2),
  );
  return [[...new Set(some)]];
}
