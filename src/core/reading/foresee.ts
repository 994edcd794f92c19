/**
 * What a further piece is expected to narrow a range to, before it is printed: truths are drawn from the belief, each is looked at on the values
 * that would be tried with the eyes that looked so far, and the range is worked out as it would be then (a preposterior analysis: Raiffa and
 * Schlaifer, "Applied Statistical Decision Theory", 1961).
 */
import { HIGHEST_MARK, Mark } from "./criterion";
import { diceOf } from "./belief/chance";
import { DRAWS } from "./belief/draws";
import { pieceBelief } from "./belief/piece-belief";
import { fromMarks, MarksRequest, wantedBy } from "./from-marks";
import { settingFor } from "../settings";

/** So many truths are tried: enough to tell a round that narrows much from one that does not. */
const TRUTHS = 8;
const SEED = 3301;

/**
 * How wide the range would be after each of some rounds, in the setting's unit, on the whole.
 *
 * @param rounds the values that each of them would try, rising
 * @returns null where the marks so far say nothing to go on from
 */
export function widthsAfter(request: MarksRequest, rounds: readonly (readonly number[])[]): number[] | null {
  const { guide, setting, bands, readers, weights } = request;
  const { lowest, highest } = settingFor(setting);
  const wanted = wantedBy(guide, weights);
  const belief = pieceBelief({ bands, readers, uses: guide.uses, weights, wanted, lowest, highest });
  if (!belief) return null;
  const { spread, wouldBe } = belief;
  const sums = rounds.map(() => 0);
  for (let i = 0; i < TRUTHS; i++) {
    const draw = Math.floor(((i + 0.5) / TRUTHS) * DRAWS);
    rounds.forEach((values, round) => {
      // The same eye looks at every round, so that they differ by their values alone.
      const dice = diceOf(SEED + i);
      const marks = values.flatMap((value, at) =>
        wouldBe(draw, value).map(({ criterion, quality }) => ({
          band: at + 1,
          criterion,
          mark: markOf(quality, spread, dice),
        })),
      );
      const tried = values.map((value, at) => ({ band: at + 1, value, counts: true }));
      const found = fromMarks({ guide, setting, bands: tried, readers: [marks], weights, isRough: true });
      sums[round] += found ? found.toValue - found.fromValue : values[values.length - 1] - values[0];
    });
  }
  return sums.map((sum) => sum / TRUTHS);
}

/** Four dice make a bell (central limit); their variance is a third. */
function markOf(quality: number, spread: number, dice: () => number): Mark {
  const bell = (dice() + dice() + dice() + dice() - 2) * Math.sqrt(3);
  return Math.max(0, Math.min(HIGHEST_MARK, Math.round(quality + spread * bell))) as Mark;
}
