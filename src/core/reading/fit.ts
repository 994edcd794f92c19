/** Polynomials fitted to points by weighted least squares, with the standard errors of what was found. */

export interface Fit {
  /** Constant first. */
  coefficients: number[];
  /** Inverse of XᵀWX: times the variance of one point of weight 1 it is the covariance of the coefficients. */
  unscaled: number[][];
  /** Weighted sum of squared residuals over the degrees of freedom; NaN where none are left. */
  residualVariance: number;
  freedom: number;
}

/**
 * The polynomial of a degree through points: the solution of the normal equations XᵀWX·b = XᵀWy (any textbook of regression). Null where
 * the points do not fix it.
 */
export function polynomialFit(
  x: readonly number[],
  y: readonly number[],
  degree: number,
  weights: readonly number[] = x.map(() => 1),
): Fit | null {
  const size = degree + 1;
  const normal = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const right = new Array<number>(size).fill(0);
  x.forEach((at, i) => {
    const powers = Array.from({ length: size }, (_, power) => at ** power);
    for (let row = 0; row < size; row++) {
      right[row] += weights[i] * powers[row] * y[i];
      for (let column = 0; column < size; column++) {
        normal[row][column] += weights[i] * powers[row] * powers[column];
      }
    }
  });
  const unscaled = inverse(normal);
  if (!unscaled) return null;
  const coefficients = unscaled.map((row) => row.reduce((sum, factor, i) => sum + factor * right[i], 0));
  const freedom = weights.filter((weight) => weight > 0).length - size;
  const squares = x.reduce((sum, at, i) => sum + weights[i] * (y[i] - valueAt(coefficients, at)) ** 2, 0);
  return { coefficients, unscaled, freedom, residualVariance: freedom > 0 ? squares / freedom : NaN };
}

/** The polynomial's value. */
export function valueAt(coefficients: readonly number[], x: number): number {
  return coefficients.reduceRight((sum, coefficient) => sum * x + coefficient, 0);
}

const SINGULAR = 1e-12;

/** The inverse of a small matrix by Gauss and Jordan, largest pivot first; null if it has none. */
function inverse(matrix: readonly (readonly number[])[]): number[][] | null {
  const size = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  const scale = Math.max(...matrix.flat().map(Math.abs));
  for (let column = 0; column < size; column++) {
    let pivot = column;
    for (let row = column + 1; row < size; row++) {
      if (Math.abs(rows[row][column]) > Math.abs(rows[pivot][column])) pivot = row;
    }
    if (!(Math.abs(rows[pivot][column]) > scale * SINGULAR)) return null;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    const divisor = rows[column][column];
    rows[column] = rows[column].map((value) => value / divisor);
    for (let row = 0; row < size; row++) {
      if (row === column) continue;
      const factor = rows[row][column];
      rows[row] = rows[row].map((value, i) => value - factor * rows[column][i]);
    }
  }
  return rows.map((row) => row.slice(size));
}
