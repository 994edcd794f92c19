"use client";
import { useMemo } from "react";
import { plainNumber } from "@/core/units";
import type { LogColumn, LogCurve } from "./columns";
import { penOf } from "./curve-pen";
import { LogScale, roundStep } from "./scale";

type Curves = Extract<LogColumn, { kind: "curves" }>;

const GAP = 12;

/** The axis's range: the given one, or the curves' own with a little room. */
export function curveRange({ range, curves }: Curves): [number, number] {
  if (range) return range;
  let low = Infinity;
  let high = -Infinity;
  for (const { values } of curves) {
    for (let i = 0; i < values.length; i++) {
      if (values[i] < low) low = values[i];
      if (values[i] > high) high = values[i];
    }
  }
  if (!(high >= low)) return [0, 1];
  const room = Math.max((high - low) * 0.1, 1e-6 + Math.abs(high) * 0.02);
  return [low === 0 ? 0 : low - room, high + room];
}

function place(value: number, [low, high]: [number, number], width: number): number {
  return ((value - low) / (high - low || 1)) * (width - GAP);
}

function ticks([low, high]: [number, number], width: number): number[] {
  const step = roundStep(((high - low) / (width - GAP)) * 44);
  const list: number[] = [];
  for (let i = Math.ceil(low / step); i * step <= high + 1e-9; i++) list.push(i * step);
  return list;
}

/** The numbers above the column. */
export function CurveTicks({ column, range }: { column: Curves; range: [number, number] }) {
  return (
    <div className="ticks" aria-hidden>
      {ticks(range, column.width).map((value) => (
        <span key={value} style={{ left: place(value, range, column.width) }}>
          {plainNumber(value)}
        </span>
      ))}
    </div>
  );
}

/** Curves along the height: planned values as dashed steps, the others as drawn lines. */
export function CurvesColumn({ column, scale, tops }: { column: Curves; scale: LogScale; tops: ArrayLike<number> }) {
  const range = curveRange(column);
  const { width, curves } = column;
  const paths = useMemo(
    () => curves.map((curve) => pathOf(curve, range, width, scale, tops)),
    // The range follows from the curves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [curves, width, scale, tops, range[0], range[1]],
  );
  return (
    <svg
      width={width - GAP}
      height={scale.heightPx}
      style={{ position: "absolute", top: 0, left: 0 }}
      role="img"
      aria-label={`${column.title} along the height`}
    >
      {ticks(range, width).map((value) => {
        const x = place(value, range, width);
        return <line key={value} x1={x} x2={x} y1={1} y2={scale.y(0)} stroke="var(--line)" />;
      })}
      {paths.map((d, i) => {
        return <path key={i} d={d} fill="none" {...penOf(curves[i].style)} strokeLinejoin="round" />;
      })}
    </svg>
  );
}

function pathOf(
  { values, style }: LogCurve,
  range: [number, number],
  width: number,
  scale: LogScale,
  tops: ArrayLike<number>,
): string {
  let d = "";
  let pen = false;
  let lastX = NaN;
  const count = Math.min(values.length, tops.length);
  // At most a few points a pixel: more would not be seen.
  const skip = Math.max(1, Math.floor(count / (scale.heightPx * 3)));
  for (let i = 0; i < count; i += skip) {
    const value = values[i];
    if (Number.isNaN(value)) {
      pen = false;
      continue;
    }
    const x = place(value, range, width);
    const low = scale.y(i === 0 ? 0 : tops[i - 1]);
    const high = scale.y(tops[i]);
    if (!pen) d += `M${x.toFixed(1)} ${low.toFixed(1)}`;
    else if (style !== "expected" && x !== lastX) d += `H${x.toFixed(1)}`;
    d += `L${x.toFixed(1)} ${high.toFixed(1)}`;
    pen = true;
    lastX = x;
  }
  return d;
}
