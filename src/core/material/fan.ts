/** What a fan really blows: it needs a while to come to a new speed. */

/**
 * Percentage at the end of each layer: a first-order lag behind what is set, `x(t) = set + (x0 − set)·e^(−t/τ)` with the run-up time τ.
 * Layers in which nothing is set yet count as off.
 */
export function fanProfile(
  layers: readonly { seconds: number }[],
  setPercent: ArrayLike<number>,
  runUpS: number,
): Float32Array {
  const percent = new Float32Array(layers.length);
  let now = 0;
  layers.forEach(({ seconds }, i) => {
    const set = Number.isNaN(setPercent[i]) ? 0 : setPercent[i];
    now = runUpS > 0 ? set + (now - set) * Math.exp(-seconds / runUpS) : set;
    percent[i] = now;
  });
  return percent;
}
