/** The columns of a job's height log: what is planned, and what was measured on the way. */
import { measuredByLayer } from "@/core/link/job-facts";
import type { JobView } from "@/core/link/state";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { plainNumber } from "@/core/units";
import type { LogColumn } from "../heightlog/column";
import { curvesColumn } from "../heightlog/columns/curves";
import { layersColumn } from "../heightlog/columns/layers";
import { marksColumn } from "../heightlog/columns/marks";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { outlineColumn } from "../heightlog/columns/outline";

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
    millimetresColumn(),
    outlineColumn({ title: "material", widthPx: 150, minX: log.minX, maxX: log.maxX }),
    layersColumn({ title: "layer", widthPx: 60 }),
    curvesColumn({
      title: "Nozzle, °C",
      widthPx: 220,
      unit: "°C",
      curves: [
        { label: "set", values: own("nozzleTemperature"), style: "planned" },
        { label: "measured", values: measuredByLayer(log.tops, job.samples), style: "expected" },
      ],
    }),
  ];
  if (second) {
    const { label, unit } = settingFor(second);
    columns.push(
      curvesColumn({
        title: `${label}, ${unit}`,
        widthPx: 120,
        unit,
        curves: [{ label: "set", values: own(second), style: "planned" }],
      }),
    );
  }
  columns.push(marksColumn({ title: "By hand", widthPx: 150, marks: marks.map(markOf) }));
  return columns;
}

/** A change by hand as it stands on the log. */
export function markOf({ heightMm, setting, value }: JobView["marks"][number]): { heightMm: number; text: string } {
  const { short, unit, decimals } = settingFor(setting);
  return { heightMm, text: `${short} ${plainNumber(value, decimals)} ${unit}` };
}
