"use client";
import { GAP_PX, LogBand } from "./column";
import type { LogScale } from "./scale";
import styles from "./height-log.module.css";

/** The pale ground of a column, tinted where the bands lie. */
export function ColumnGround({
  widthPx,
  scale,
  bands,
}: {
  widthPx: number;
  scale: LogScale;
  bands: readonly LogBand[];
}) {
  return (
    <svg width={widthPx - GAP_PX} height={scale.heightPx} className={styles.ground} aria-hidden>
      <rect
        x={0.5}
        y={0.5}
        width={widthPx - GAP_PX - 1}
        height={Math.max(0, scale.y(0) - 0.5)}
        fill="var(--surface)"
        stroke="var(--line)"
      />
      {bands.map((band, i) => (
        <rect
          key={i}
          x={1}
          width={widthPx - GAP_PX - 2}
          y={scale.y(band.toMm)}
          height={Math.max(0, scale.y(band.fromMm) - scale.y(band.toMm))}
          fill={band.colour}
          opacity={0.12}
        />
      ))}
    </svg>
  );
}
