/** The columns of a job's height log: what is planned, and what was measured on the way. */
import type { JobView } from "@/core/link/state";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { LogColumn } from "../heightlog/columns";

/** Mean of the samples in each layer; layers passed between two looks get the line between them, NaN where nothing is known. */
export function measuredByLayer({ log, samples }: Pick<JobView, "log" | "samples">): Float64Array {
  const { tops } = log;
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

/** Columns from left to right; `key` is what the bands are about. */
export function jobColumns(job: JobView, key: SettingKey): LogColumn[] {
  const { log, marks } = job;
  const own = (one: SettingKey) => Float64Array.from(log.tops, (_, i) => log.settings[one]?.[i] ?? NaN);
  const varies = (one: SettingKey) => new Set(log.settings[one]?.filter((value) => value !== null)).size > 1;
  const second =
    key !== "nozzleTemperature" && varies(key)
      ? key
      : settingKeys.find((one) => one !== "nozzleTemperature" && varies(one));
  const columns: LogColumn[] = [
    { kind: "millimetres", title: "mm", width: 66 },
    { kind: "outline", title: "material", width: 150, minX: log.minX, maxX: log.maxX },
    { kind: "layers", title: "layer", width: 60 },
    {
      kind: "curves",
      title: "Nozzle, °C",
      width: 220,
      unit: "°C",
      curves: [
        { label: "set", values: own("nozzleTemperature"), style: "planned" },
        { label: "measured", values: measuredByLayer(job), style: "expected" },
      ],
    },
  ];
  if (second) {
    const { label, unit } = settingFor(second);
    columns.push({
      kind: "curves",
      title: `${label}, ${unit}`,
      width: 120,
      unit,
      curves: [{ label: "set", values: own(second), style: "planned" }],
    });
  }
  columns.push({
    kind: "marks",
    title: "By hand",
    width: 150,
    marks: marks.map(({ heightMm, setting, value }) => {
      const { short, unit, decimals } = settingFor(setting);
      return { heightMm, text: `${short} ${plainNumber(value, decimals)} ${unit}` };
    }),
  });
  return columns;
}
