/** The columns of a trial's height log: what is planned, and what will come of it. */
import { HeightPlan } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import type { TrialView } from "@/workers/trial-messages";
import type { LogBand, LogColumn } from "../heightlog/column";
import { curvesColumn } from "../heightlog/columns/curves";
import { frontColumn } from "../heightlog/columns/front";
import { emptyColumn, layersColumn } from "../heightlog/columns/layers";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { valuesColumn } from "../heightlog/columns/values";

export interface TrialColumns {
  view: TrialView | null;
  step: "plan" | "check";
  specimen: string;
  plan: HeightPlan;
  /** The setting whose values are shown. */
  shown: SettingKey;
  /** Settings that vary: their curves are drawn in the plan too. */
  varied: readonly SettingKey[];
  highestFlowMm3S: number | null;
  onValue(band: LogBand, value: number): void;
}

/** Columns from left to right; what the worker has not told yet stands empty in its place, so that nothing jumps when it comes. */
export function trialColumns(request: TrialColumns): LogColumn[] {
  const { view, step, specimen, varied } = request;
  const isPlanning = step === "plan";
  const title = `${specimen}, seen from the front`;
  const widthPx = isPlanning ? 330 : 236;
  const start: LogColumn[] = [
    millimetresColumn(),
    view ? frontColumn({ title, widthPx, front: view.front, widthMm: view.widthMm }) : emptyColumn(widthPx, title),
    layersColumn({ title: "layer", widthPx: 60 }),
  ];
  if (!isPlanning)
    return [...start, nozzleCurve(view, 178), fanCurve(view, 116), flowCurve(request, 124), timeCurve(view)];
  // What varies is drawn with what it depends on.
  const beside = varied.includes("nozzleTemperature")
    ? nozzleCurve(view, 178)
    : varied.includes("fan")
      ? fanCurve(view, 178)
      : flowCurve(request, 178);
  return [...start, beside, timeCurve(view), valuesOf(request)];
}

const NOTHING = new Float32Array();

function nozzleCurve(view: TrialView | null, widthPx: number): LogColumn {
  return curvesColumn({
    title: "Nozzle, °C",
    widthPx,
    unit: "°C",
    curves: [
      { label: "set", values: view?.nozzle.setC ?? NOTHING, style: "planned" },
      { label: "expected", values: view?.nozzle.expectedC ?? NOTHING, style: "expected" },
    ],
  });
}

function fanCurve(view: TrialView | null, widthPx: number): LogColumn {
  return curvesColumn({
    title: "Fan, %",
    widthPx,
    unit: "%",
    curves: [
      { label: "set", values: view?.fan.setPercent ?? NOTHING, style: "planned" },
      { label: "blows", values: view?.fan.expectedPercent ?? NOTHING, style: "expected" },
    ],
    range: [0, 115],
  });
}

function flowCurve({ highestFlowMm3S, view }: TrialColumns, widthPx: number): LogColumn {
  const { flowMm3S, peakFlowMm3S } = view?.layers ?? { flowMm3S: NOTHING, peakFlowMm3S: NOTHING };
  const limit = highestFlowMm3S === null ? [] : [new Float32Array(flowMm3S.length).fill(highestFlowMm3S)];
  return curvesColumn({
    title: "Flow, mm³/s",
    widthPx,
    unit: "mm³/s",
    curves: [
      // Where there is little room, what matters is whether the limit is passed.
      ...(widthPx > 150 ? [{ label: "mean", values: flowMm3S, style: "plain" as const }] : []),
      { label: "most", values: peakFlowMm3S, style: "expected" },
      ...limit.map((values) => ({ label: "limit", values, style: "limit" as const })),
    ],
    range: [0, Math.max(highestFlowMm3S ?? 0, zeroTo(peakFlowMm3S)[1]) * 1.08],
  });
}

function timeCurve(view: TrialView | null): LogColumn {
  const seconds = view?.layers.seconds ?? NOTHING;
  return curvesColumn({
    title: "Layer, s",
    widthPx: 88,
    unit: "s",
    curves: [{ label: "time", values: seconds, style: "plain" }],
    range: zeroTo(seconds),
  });
}

function valuesOf({ plan, shown, onValue }: TrialColumns): LogColumn {
  const { unit, lowest, highest, step, decimals } = settingFor(shown);
  return valuesColumn({
    title: "Set to",
    widthPx: 132,
    values: {
      unit,
      low: lowest,
      high: highest,
      step,
      decimals,
      of: (band) => plan.bands[band.number - 1]?.settings[shown] ?? null,
      onChange: onValue,
    },
  });
}

/** From 0 to a little above what nearly all layers need: a slow first layer must not flatten the rest. */
function zeroTo(values: Float32Array): [number, number] {
  const sorted = Float32Array.from(values).sort();
  const usual = sorted[Math.floor((sorted.length - 1) * 0.97)] ?? 1;
  return [0, Math.max(1, usual * 1.25)];
}
