/** Numbers of bands as people say them: `band 3`, `bands 1–4, 7`. Runs are drawn together; a long list ends in `…`. */
export function sayBands(numbers: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const number of [...numbers].sort((a, b) => a - b)) {
    const last = runs[runs.length - 1];
    if (last && number === last[1] + 1) last[1] = number;
    else runs.push([number, number]);
  }
  const said = runs
    .slice(0, MOST_RUNS)
    .map(([from, to]) => (from === to ? `${from}` : to === from + 1 ? `${from}, ${to}` : `${from}–${to}`));
  return `band${numbers.length > 1 ? "s" : ""} ${said.join(", ")}${runs.length > MOST_RUNS ? " …" : ""}`;
}

const MOST_RUNS = 6;
