"use client";
/** The nozzle's temperature over the time of the print. */
import { useMemo } from "react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { plainNumber } from "@/core/units";
import type { TrialView } from "@/workers/trial-messages";

const MOST_POINTS = 1500;

export function HeatChart({ view }: { view: TrialView }) {
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
    <section className="card" style={{ marginTop: 10 }} aria-label="Nozzle over time">
      <h2>Nozzle over time, °C</h2>
      <div style={{ height: 118 }}>
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 700, height: 118 }}>
          <LineChart data={points} margin={{ top: 4, right: 12, bottom: 0, left: -18 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="minutes"
              type="number"
              domain={[0, "dataMax"]}
              tickFormatter={(value: number) => `${plainNumber(value, 0)} min`}
              stroke="var(--faint)"
              fontSize={11}
              tickCount={8}
            />
            <YAxis
              domain={["dataMin - 2", "dataMax + 2"]}
              tickFormatter={(value: number) => plainNumber(value, 0)}
              stroke="var(--faint)"
              fontSize={11}
            />
            <Tooltip
              contentStyle={{
                background: "var(--raised)",
                border: "1px solid var(--line)",
                borderRadius: 8,
                color: "var(--ink)",
              }}
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
