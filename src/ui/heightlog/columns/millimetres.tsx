"use client";
import type { ReactNode } from "react";
import { plainNumber } from "@/core/units";
import type { LogColumn, LogFrame } from "../column";
import { roundStep } from "../scale";

/** Room of a figure, and of a tick, px. */
const FIGURE_PX = 34;
const TICK_PX = 6;

/** The axis itself. */
export function millimetresColumn(): LogColumn {
  return {
    title: "mm",
    widthPx: 66,
    isAxis: true,
    strokes: (frame) => <Ticks {...frame} />,
    tag: ({ mm }) => plainNumber(mm, 2),
    tagAt: { left: 0, width: 54 },
  };
}

function Ticks({ scale, leftPx }: LogFrame) {
  const labelled = roundStep(FIGURE_PX / scale.pxPerMm);
  const small = roundStep(TICK_PX / scale.pxPerMm);
  const ticks: ReactNode[] = [];
  for (let i = 0; i * small <= scale.topMm + 1e-6; i++) {
    const mm = i * small;
    const named = Math.abs(mm / labelled - Math.round(mm / labelled)) < 1e-6;
    const y = scale.y(mm);
    ticks.push(
      <line
        key={i}
        x1={leftPx + (named ? 40 : 48)}
        x2={leftPx + 54}
        y1={y}
        y2={y}
        stroke="var(--line-strong)"
        strokeWidth={named ? 1.2 : 0.7}
      />,
    );
    if (named) {
      ticks.push(
        <text key={`t${i}`} x={leftPx + FIGURE_PX} y={y + 4} textAnchor="end">
          {plainNumber(mm)}
        </text>,
      );
    }
  }
  return <g>{ticks}</g>;
}
