"use client";
/** The figures along the axis of the height log. */
import type { ReactNode } from "react";
import { plainNumber } from "@/core/units";
import type { LogBand } from "./columns";
import { LogScale, roundStep } from "./scale";

export function Millimetres({ left, scale, colour }: { left: number; scale: LogScale; colour: string }) {
  const labelled = roundStep(34 / scale.pxPerMm);
  const small = roundStep(6 / scale.pxPerMm);
  const ticks: ReactNode[] = [];
  for (let i = 0; i * small <= scale.topMm + 1e-6; i++) {
    const mm = i * small;
    const named = Math.abs(mm / labelled - Math.round(mm / labelled)) < 1e-6;
    const y = scale.y(mm);
    ticks.push(
      <line
        key={i}
        x1={left + (named ? 40 : 48)}
        x2={left + 54}
        y1={y}
        y2={y}
        stroke={colour}
        strokeWidth={named ? 1.2 : 0.7}
      />,
    );
    if (named) {
      ticks.push(
        <text key={`t${i}`} x={left + 34} y={y + 4} textAnchor="end">
          {plainNumber(mm)}
        </text>,
      );
    }
  }
  return <g>{ticks}</g>;
}

export function LayerNames({
  left,
  bands,
  scale,
  markers,
}: {
  left: number;
  bands: LogBand[];
  scale: LogScale;
  markers?: (number | undefined)[];
}) {
  let lastY = Infinity;
  return (
    <g>
      {bands.map((band, i) => {
        const y = scale.y(band.fromMm) - 5;
        if (lastY - y < 12) return null;
        lastY = y;
        const marker = markers?.[band.firstLayer];
        return (
          <text key={i} x={left + 6} y={y}>
            L{band.firstLayer + 1}
            {marker !== undefined && marker !== band.firstLayer + 1 ? ` (${marker})` : ""}
          </text>
        );
      })}
    </g>
  );
}
