/** The columns of an opened file's height log. */
import type { ProgramReport } from "@/core/report/report";
import { SettingKey, settingFor } from "@/core/settings";
import type { LogBand, LogColumn } from "../heightlog/column";
import { curvesColumn } from "../heightlog/columns/curves";
import { layersColumn } from "../heightlog/columns/layers";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { valuesColumn } from "../heightlog/columns/values";

interface Shown {
  report: ProgramReport;
  /** The piece from the front. */
  front: LogColumn;
  key: SettingKey;
  /** What the plan sets per layer; NaN where it says nothing, undefined where it never does. */
  planned: Float64Array | undefined;
  onValue(band: LogBand, value: number): void;
}

export function fileColumns({ report, front, key, planned, onValue }: Shown): LogColumn[] {
  const { layers } = report;
  const setting = settingFor(key);
  const own = Float64Array.from(layers, (_, i) => report.settings[key]?.[i] ?? NaN);
  const withPlan = own.map((value, i) => (planned && !Number.isNaN(planned[i]) ? planned[i] : value));
  return [
    millimetresColumn(),
    front,
    layersColumn({ title: "layer", widthPx: 84, markers: layers.map(({ marker }) => marker) }),
    curvesColumn({
      title: `${setting.label}, ${setting.unit}`,
      widthPx: 190,
      unit: setting.unit,
      curves: planned
        ? [
            { label: "the file’s own", values: own, style: "planned" },
            { label: "with plan", values: withPlan, style: "plain" },
          ]
        : [{ label: "the file’s own", values: own, style: "plain" }],
    }),
    curvesColumn({
      title: "Layer, s",
      widthPx: 96,
      unit: "s",
      curves: [{ label: "time", values: layers.map(({ seconds }) => seconds), style: "plain" }],
    }),
    valuesColumn({
      title: "Set to",
      widthPx: 132,
      values: {
        unit: setting.unit,
        low: setting.lowest,
        high: setting.highest,
        step: setting.step,
        decimals: setting.decimals,
        of: (band) => planned?.[band.firstLayer] ?? null,
        onChange: onValue,
      },
    }),
  ];
}
