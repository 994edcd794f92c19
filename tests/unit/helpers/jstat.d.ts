/** The few functions of the statistics package that the tests hold our fits against. */
declare module "jstat" {
  interface LeastSquares {
    coef: number[];
    t: { se: number[]; sigmaHat: number };
  }
  export const jStat: {
    models: { ols(y: number[], x: number[][]): LeastSquares };
    anovafscore(...groups: number[][]): number;
    mean(values: number[]): number;
    stdev(values: number[], isSample?: boolean): number;
    studentt: { inv(share: number, freedom: number): number; cdf(t: number, freedom: number): number };
    normal: { cdf(x: number, mean: number, deviation: number): number };
  };
}
