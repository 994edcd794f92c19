"use client";
/** Set and measured temperatures over the printer's own time. */
import { useMemo } from "react";
import { CartesianGrid, Legend, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { HeatSample } from "@/core/link/state";
import { plainNumber } from "@/core/units";
import { axisStyle, tooltipStyle } from "../common/chart-style";

const MOST_POINTS = 700;
/** How much of the past is shown, s. */
const SHOWN_S = 1800;

/** Colour and weight of each heater; the set value is drawn in the same colour, dashed. */
const pens = [
  { name: "nozzle", stroke: "var(--trace)" },
  { name: "nozzle 2", stroke: "var(--primary)" },
  { name: "nozzle 3", stroke: "var(--mustard)" },
];
const bedPen = { name: "bed", stroke: "var(--trace-second)" };

export function HeatChart({ samples, heightPx }: { samples: HeatSample[]; heightPx: number }) {
  const { points, heaters } = useMemo(() => {
    const lastS = samples.at(-1)?.atS ?? 0;
    const recent = samples.filter(({ atS }) => atS >= lastS - SHOWN_S);
    const skip = Math.max(1, Math.ceil(recent.length / MOST_POINTS));
    const kept = recent.filter((_, i) => i % skip === 0 || i === recent.length - 1);
    const tools = Math.max(0, ...kept.map(({ nozzles }) => nozzles.length));
    return {
      points: kept.map(({ atS, nozzles, bed }) => ({
        minutes: (atS - (recent[0]?.atS ?? 0)) / 60,
        ...Object.fromEntries(
          nozzles.flatMap(({ measuredC, setC }, tool) => [
            [`m${tool}`, measuredC],
            [`s${tool}`, setC && setC > 0 ? setC : null],
          ]),
        ),
        mb: bed?.measuredC ?? null,
        sb: bed?.setC && bed.setC > 0 ? bed.setC : null,
      })),
      heaters: [
        ...Array.from({ length: tools }, (_, tool) => ({ id: String(tool), ...pens[Math.min(tool, pens.length - 1)] })),
        ...(kept.some(({ bed }) => bed) ? [{ id: "b", ...bedPen }] : []),
      ],
    };
  }, [samples]);
  if (points.length === 0) {
    return (
      <div className="empty" style={{ height: heightPx, marginTop: 0 }}>
        No temperature reported yet.
      </div>
    );
  }
  return (
    <div style={{ height: heightPx }} role="img" aria-label="Set and measured temperatures over time">
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 700, height: heightPx }}>
        <LineChart data={points} margin={{ top: 6, right: 14, bottom: 0, left: -14 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="minutes"
            type="number"
            domain={[0, "dataMax"]}
            tickFormatter={(value: number) => `${plainNumber(value, 1)} min`}
            {...axisStyle}
            tickCount={8}
          />
          <YAxis domain={[0, "dataMax + 15"]} tickFormatter={(value: number) => plainNumber(value, 0)} {...axisStyle} />
          <Tooltip
            contentStyle={tooltipStyle}
            labelFormatter={(minutes) => `${plainNumber(Number(minutes), 1)} min`}
            formatter={(value, name) => [`${plainNumber(Number(value), 1)} °C`, name]}
          />
          <Legend iconType="plainline" wrapperStyle={{ fontSize: 12 }} />
          {heaters.flatMap(({ id, name, stroke }) => [
            <Line
              key={`s${id}`}
              name={`${name}, set`}
              dataKey={`s${id}`}
              stroke={stroke}
              strokeDasharray="5 3"
              dot={false}
              isAnimationActive={false}
              type="stepAfter"
            />,
            <Line
              key={`m${id}`}
              name={`${name}, measured`}
              dataKey={`m${id}`}
              stroke={stroke}
              strokeWidth={2.2}
              dot={false}
              isAnimationActive={false}
            />,
          ])}
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
