"use client";
import { useMemo } from "react";
import { plainNumber } from "@/core/units";
import { GAP_PX, LogColumn } from "../column";
import { LogScale, roundStep } from "../scale";
import { penOf } from "./curve-pen";
import styles from "../height-log.module.css";

export interface LogCurve {
  label: string;
  values: ArrayLike<number>;
  /** `limit`: what must not be passed. */
  style: "planned" | "expected" | "plain" | "limit";
}

export interface Curves {
  title: string;
  widthPx: number;
  unit: string;
  curves: LogCurve[];
  /** Range of the axis; the curves' own range where it is left out. */
  range?: [number, number];
}

/** Curves along the height. */
export function curvesColumn(column: Curves): LogColumn {
  const { title, widthPx } = column;
  return {
    title,
    widthPx,
    hasGround: true,
    head: () => (
      <>
        <Legend curves={column.curves} />
        <CurveTicks column={column} range={curveRange(column)} />
      </>
    ),
    drawing: ({ scale, tops }) => <Drawing column={column} scale={scale} tops={tops} />,
  };
}

function Legend({ curves }: Pick<Curves, "curves">) {
  if (curves.length < 2) return <small>&nbsp;</small>;
  return (
    <small>
      {curves.map(({ label, style }) => (
        <span key={label} className={styles.legend}>
          <svg width={18} height={8} aria-hidden>
            <line x1={1} x2={17} y1={5} y2={5} {...penOf(style)} />
          </svg>{" "}
          {label}
        </span>
      ))}
    </small>
  );
}

/** The axis's range: the given one, or the curves' own with a little room. */
function curveRange({ range, curves }: Curves): [number, number] {
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
  return ((value - low) / (high - low || 1)) * (width - GAP_PX);
}

function ticks([low, high]: [number, number], width: number): number[] {
  const step = roundStep(((high - low) / (width - GAP_PX)) * 44);
  const list: number[] = [];
  for (let i = Math.ceil(low / step); i * step <= high + 1e-9; i++) list.push(i * step);
  return list;
}

/** The numbers above the column. */
function CurveTicks({ column, range }: { column: Curves; range: [number, number] }) {
  return (
    <div className={styles.ticks} aria-hidden>
      {ticks(range, column.widthPx).map((value) => (
        <span key={value} style={{ left: place(value, range, column.widthPx) }}>
          {plainNumber(value)}
        </span>
      ))}
    </div>
  );
}

/** Curves along the height: planned values as dashed steps, the others as drawn lines. */
function Drawing({ column, scale, tops }: { column: Curves; scale: LogScale; tops: ArrayLike<number> }) {
  const range = curveRange(column);
  const { widthPx, curves } = column;
  const paths = useMemo(
    () => curves.map((curve) => pathOf(curve, range, widthPx, scale, tops)),
    // The range follows from the curves.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [curves, widthPx, scale, tops, range[0], range[1]],
  );
  return (
    <svg
      width={widthPx - GAP_PX}
      height={scale.heightPx}
      className={styles.drawing}
      role="img"
      aria-label={`${column.title} along the height`}
    >
      {ticks(range, widthPx).map((value) => {
        const x = place(value, range, widthPx);
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
