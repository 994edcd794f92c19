/** The columns of a trial's height log: what is planned, and what will come of it. */
import { HeightPlan } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import type { TrialView } from "@/workers/trial-messages";
import type { LogBand, LogColumn } from "../heightlog/columns";

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

/** Columns from left to right. */
export function trialColumns(request: TrialColumns): LogColumn[] {
  const { view, step, specimen, varied } = request;
  const planning = step === "plan";
  const start: LogColumn[] = [
    { kind: "millimetres", title: "mm", width: 66 },
    view
      ? {
          kind: "front",
          title: `${specimen}, seen from the front`,
          width: planning ? 330 : 236,
          front: view.front,
          widthMm: view.widthMm,
        }
      : { kind: "layers", title: "", width: 330 },
    { kind: "layers", title: "layer", width: 60 },
  ];
  if (!view) return start;
  const values = valuesColumn(request);
  if (!planning)
    return [...start, nozzleCurve(view, 178), fanCurve(view, 116), flowCurve(request, view, 124), timeCurve(view)];
  // What varies is drawn with what it depends on.
  if (varied.includes("nozzleTemperature")) return [...start, nozzleCurve(view, 178), timeCurve(view), values];
  if (varied.includes("fan")) return [...start, fanCurve(view, 178), timeCurve(view), values];
  return [...start, flowCurve(request, view, 178), timeCurve(view), values];
}

function nozzleCurve(view: TrialView, width: number): LogColumn {
  return {
    kind: "curves",
    title: "Nozzle, °C",
    width,
    unit: "°C",
    curves: [
      { label: "set", values: view.nozzle.setC, style: "planned" },
      { label: "expected", values: view.nozzle.expectedC, style: "expected" },
    ],
  };
}

function fanCurve(view: TrialView, width: number): LogColumn {
  return {
    kind: "curves",
    title: "Fan, %",
    width,
    unit: "%",
    curves: [
      { label: "set", values: view.fan.setPercent, style: "planned" },
      { label: "blows", values: view.fan.expectedPercent, style: "expected" },
    ],
    range: [0, 115],
  };
}

function flowCurve({ highestFlowMm3S }: TrialColumns, view: TrialView, width: number): LogColumn {
  const { flowMm3S, peakFlowMm3S } = view.layers;
  const limit = highestFlowMm3S === null ? [] : [new Float32Array(flowMm3S.length).fill(highestFlowMm3S)];
  return {
    kind: "curves",
    title: "Flow, mm³/s",
    width,
    unit: "mm³/s",
    curves: [
      // Where there is little room, what matters is whether the limit is passed.
      ...(width > 150 ? [{ label: "mean", values: flowMm3S, style: "plain" as const }] : []),
      { label: "most", values: peakFlowMm3S, style: "expected" },
      ...limit.map((values) => ({ label: "limit", values, style: "limit" as const })),
    ],
    range: [0, Math.max(highestFlowMm3S ?? 0, zeroTo(peakFlowMm3S)[1]) * 1.08],
  };
}

function timeCurve(view: TrialView): LogColumn {
  return {
    kind: "curves",
    title: "Layer, s",
    width: 88,
    unit: "s",
    curves: [{ label: "time", values: view.layers.seconds, style: "plain" }],
    range: zeroTo(view.layers.seconds),
  };
}

function valuesColumn({ plan, shown, onValue }: TrialColumns): LogColumn {
  const { unit, lowest, highest, step, decimals } = settingFor(shown);
  return {
    kind: "values",
    title: "Set to",
    width: 132,
    values: {
      unit,
      low: lowest,
      high: highest,
      step,
      decimals,
      of: (band) => plan.bands[band.number - 1]?.settings[shown] ?? null,
      onChange: onValue,
    },
  };
}

/** From 0 to a little above what nearly all layers need: a slow first layer must not flatten the rest. */
function zeroTo(values: Float32Array): [number, number] {
  const sorted = Float32Array.from(values).sort();
  const usual = sorted[Math.floor((sorted.length - 1) * 0.97)] ?? 1;
  return [0, Math.max(1, usual * 1.25)];
}
