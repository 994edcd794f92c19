"use client";
/** The nozzle's temperature over the time of the print. */
import { useMemo } from "react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { MOST_LEAD_LAYERS } from "@/core/heightplan/plan";
import { plainNumber } from "@/core/units";
import { axisStyle, tooltipStyle } from "../common/chart-style";
import { NumberField } from "../common/number-field";
import type { TrialView } from "@/workers/trial-messages";
import styles from "./heat-chart.module.css";

const MOST_POINTS = 1500;

interface Props {
  view: TrialView;
  /** Layers by which the nozzle is told earlier now; changes it. */
  leadLayers: number;
  onLead(layers: number): void;
}

export function HeatChart({ view, leadLayers, onLead }: Props) {
  const points = useMemo(() => {
    const skip = Math.max(1, Math.ceil(view.tops.length / MOST_POINTS));
    const list: { minutes: number; set: number; expected: number; mm: number }[] = [];
    let seconds = 0;
    if (view.tops.length > 0) list.push({ minutes: 0, set: view.nozzle.setC[0], expected: view.nozzle.setC[0], mm: 0 });
    for (let i = 0; i < view.tops.length; i++) {
      seconds += view.layers.seconds[i];
      if (i % skip !== 0 && i !== view.tops.length - 1) continue;
      list.push({
        minutes: seconds / 60,
        set: view.nozzle.setC[i],
        expected: view.nozzle.expectedC[i],
        mm: view.tops[i],
      });
    }
    return list;
  }, [view]);
  return (
    <section className="card above" aria-label="Nozzle over time">
      <div className="spread">
        <h2>Nozzle over time, °C</h2>
        {view.lead && (
          <span className="dim inline-line">
            Told
            <NumberField
              label="Layers the nozzle changes early"
              value={leadLayers}
              unit="layers"
              low={0}
              high={MOST_LEAD_LAYERS}
              decimals={0}
              width={28}
              onChange={(next) => onLead(Math.round(next))}
            />
            early
            {view.lead.layers !== leadLayers && (
              <button className="link-button" onClick={() => onLead(view.lead!.layers)}>
                Choose for me
              </button>
            )}
          </span>
        )}
      </div>
      <div className={styles.chart}>
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 700, height: 118 }}>
          <LineChart data={points} margin={{ top: 4, right: 12, bottom: 0, left: -18 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="minutes"
              type="number"
              domain={[0, "dataMax"]}
              tickFormatter={(value: number) => `${plainNumber(value, 0)} min`}
              {...axisStyle}
              tickCount={8}
            />
            <YAxis
              domain={["dataMin - 2", "dataMax + 2"]}
              tickFormatter={(value: number) => plainNumber(value, 0)}
              {...axisStyle}
            />
            <Tooltip
              contentStyle={tooltipStyle}
              labelFormatter={(minutes, payload) =>
                `${plainNumber(Number(minutes), 0)} min, ${plainNumber((payload?.[0]?.payload as { mm?: number } | undefined)?.mm ?? 0, 1)} mm`
              }
              formatter={(value, name) => [`${plainNumber(Number(value), 1)} °C`, name]}
            />
            <Line
              dataKey="set"
              stroke="var(--ink)"
              strokeDasharray="5 3"
              dot={false}
              isAnimationActive={false}
              type="stepBefore"
            />
            <Line dataKey="expected" stroke="var(--trace)" strokeWidth={2.2} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </section>
  );
}
