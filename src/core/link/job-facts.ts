/** What is known of a job at a layer: what was measured there, and what is in force. */
import type { SettingKey } from "../settings";
import type { JobSample, JobView } from "./state";

/** Mean of the samples in each layer; layers passed between two looks get the line between them, NaN where nothing is known. */
export function measuredByLayer(tops: ArrayLike<number>, samples: readonly JobSample[]): Float64Array {
  const values = new Float64Array(tops.length).fill(NaN);
  let last = -1;
  let layer = 0;
  for (const { heightMm, nozzleC } of samples) {
    while (layer < tops.length - 1 && tops[layer] < heightMm - 1e-4) layer++;
    for (let between = last + 1; last >= 0 && between < layer; between++) {
      values[between] = values[last] + ((nozzleC - values[last]) * (between - last)) / (layer - last);
    }
    values[layer] = last === layer ? (values[layer] + nozzleC) / 2 : nozzleC;
    last = layer;
  }
  return values;
}

/** What is in force in a layer: the last change by hand, unless the program itself has changed the setting since. */
export function inForceAt(
  { log, marks }: Pick<JobView, "log" | "marks">,
  key: SettingKey,
  layer: number,
): number | null {
  const told = log.settings[key] ?? [];
  const planned = told[layer] ?? null;
  const mark = marks.findLast(({ setting, heightMm }) => setting === key && heightMm <= (log.tops[layer] ?? 0) + 1e-4);
  if (!mark) return planned;
  const from = Math.max(
    0,
    log.tops.findIndex((top) => top >= mark.heightMm - 1e-4),
  );
  const changedSince = told.slice(from, layer + 1).some((value, i, all) => i > 0 && value !== all[i - 1]);
  return changedSince ? planned : mark.value;
}
