/**
 * The values of a piece on a line of their own: the lowest that was tried is 0, the highest 1, and every step between two neighbours is as
 * long as the others. Whoever chose the values chose them so that each step tells about as much; a belief starts from that.
 */

/** How far beyond the values that were tried a belief looks, in shares of their range. */
const BEYOND = 0.5;

export interface Line {
  /** All values that were tried, rising, each once. */
  values: readonly number[];
  /** A value's place; beyond the ends it goes on with the last step. */
  toX(value: number): number;
  toValue(x: number): number;
  /** The ends of what a setting allows, as far as the belief looks. */
  lowX: number;
  highX: number;
}

/**
 * @param tried two different values at least
 * @param lowest and `highest` what the setting allows
 */
export function lineOf(tried: readonly number[], lowest: number, highest: number): Line {
  const values = [...new Set(tried)].sort((a, b) => a - b);
  const last = values.length - 1;
  const toX = (value: number) => {
    const right = values.findIndex((one) => one >= value);
    const at = right < 0 ? last : Math.max(1, right);
    return (at - 1 + (value - values[at - 1]) / (values[at] - values[at - 1])) / last;
  };
  const toValue = (x: number) => {
    const at = Math.min(last, Math.max(1, Math.ceil(x * last)));
    return values[at - 1] + (x * last - (at - 1)) * (values[at] - values[at - 1]);
  };
  return {
    values,
    toX,
    toValue,
    lowX: Math.min(0, Math.max(-BEYOND, toX(lowest))),
    highX: Math.max(1, Math.min(1 + BEYOND, toX(highest))),
  };
}
