/** What the measurements share: a figure in its row, and how long something takes. */

export function row(what: string, figure: string, aim = ""): void {
  console.log(`${what.padEnd(64)} ${figure.padStart(12)}  ${aim}`);
}

export const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1];

/** ms, the median of some rounds. */
export function timed(act: () => unknown, rounds = 3): number {
  return median(
    Array.from({ length: rounds }, () => {
      const started = performance.now();
      act();
      return performance.now() - started;
    }),
  );
}
