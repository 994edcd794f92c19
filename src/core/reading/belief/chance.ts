/** Chances: the normal distribution, Student's t, and numbers that look random and are the same every time. */

/**
 * The share of a normal distribution below z: by the complementary error function's rational approximation (Abramowitz and Stegun 1964,
 * 7.1.26), off by less than 1.5e-7.
 */
export function normalBelow(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const tail =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
    Math.exp(-x * x);
  return z > 0 ? 1 - tail / 2 : tail / 2;
}

/**
 * How far from its middle Student's t with so many degrees of freedom lies with less than a two-sided chance: G. W. Hill, "Algorithm 396:
 * Student's t-quantiles", Communications of the ACM 13 (1970), good to about six digits.
 *
 * @param twoSided above 0, up to 1 @param freedom at least 1
 */
export function studentBeyond(twoSided: number, freedom: number): number {
  const p = twoSided;
  const n = freedom;
  if (Math.abs(n - 2) < 1e-9) return Math.sqrt(2 / (p * (2 - p)) - 2);
  if (n < 1 + 1e-9) {
    const angle = (p * Math.PI) / 2;
    return Math.cos(angle) / Math.sin(angle);
  }
  const a = 1 / (n - 0.5);
  const b = (48 / a) * (1 / a);
  let c = ((20700 * a) / b - 98) * a - 16;
  c = c * a + 96.36;
  const d = ((94.5 / (b + c) - 3) / b + 1) * Math.sqrt((a * Math.PI) / 2) * n;
  let x = d * p;
  let y = x ** (2 / n);
  if (y > 0.05 + a) {
    x = normalQuantile(p / 2);
    y = x * x;
    if (n < 5) c += 0.3 * (n - 4.5) * (x + 0.6);
    c = (((0.05 * d * x - 5) * x - 7) * x - 2) * x + b + c;
    y = (((((0.4 * y + 6.3) * y + 36) * y + 94.5) / c - y - 3) / b + 1) * x;
    y = a * y * y;
    y = y > 0.002 ? Math.expm1(y) : 0.5 * y * y + y;
  } else {
    y =
      ((1 / (((n + 6) / (n * y) - 0.089 * d - 0.822) * (n + 2) * 3) + 0.5 / (n + 4)) * y - 1) * ((n + 1) / (n + 2)) +
      1 / y;
  }
  return Math.sqrt(n * y);
}

/**
 * The share of Student's t with whole degrees of freedom below a place: the finite sums of Abramowitz and Stegun 1964, 26.7.3 and 26.7.4.
 */
export function studentBelow(t: number, freedom: number): number {
  const angle = Math.atan(t / Math.sqrt(freedom));
  const cos = Math.cos(angle);
  const isOdd = freedom % 2 === 1;
  // A(t|ν), the chance within ±t: cosines up to the power ν − 2.
  let term = isOdd ? cos : 1;
  let sum = freedom === 1 ? 0 : term;
  for (let power = isOdd ? 3 : 2; power <= freedom - 2; power += 2) {
    term *= ((power - 1) / power) * cos * cos;
    sum += term;
  }
  const within = isOdd ? (2 / Math.PI) * (angle + Math.sin(angle) * sum) : Math.sin(angle) * sum;
  return (1 + within) / 2;
}

/** The place that so large a share of a normal distribution lies below: P. J. Acklam's rational approximation, off by less than 1.2e-9 of it. */
export function normalQuantile(share: number): number {
  const a = [
    -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239,
  ];
  const b = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572];
  const c = [
    -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ];
  const d = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416];
  const over = (top: number[], bottom: number[], at: number) =>
    top.reduce((sum, one) => sum * at + one, 0) / (bottom.reduce((sum, one) => sum * at + one, 0) * at + 1);
  const LOW = 0.02425;
  if (share < LOW) return over(c, d, Math.sqrt(-2 * Math.log(share)));
  if (share > 1 - LOW) return -over(c, d, Math.sqrt(-2 * Math.log(1 - share)));
  const q = share - 0.5;
  return q * over(a, b, q * q);
}

/** Numbers from 0 to 1 that look random and are the same for the same seed (mulberry32, public domain). */
export function diceOf(seed: number): () => number {
  let state = seed | 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
