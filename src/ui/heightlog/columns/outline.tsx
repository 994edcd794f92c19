"use client";
import { useMemo } from "react";
import { GAP_PX, LogColumn, LogFrame } from "../column";
import styles from "../height-log.module.css";

interface Outline {
  title: string;
  widthPx: number;
  minX: ArrayLike<number>;
  maxX: ArrayLike<number>;
}

/** How wide the material of each layer is: a file or a job seen from the front, as far as its moves tell. */
export function outlineColumn(outline: Outline): LogColumn {
  const { title, widthPx } = outline;
  return {
    title,
    widthPx,
    hasGround: true,
    holdsEdges: true,
    drawing: (frame) => <Drawing {...outline} {...frame} />,
  };
}

function Drawing({ minX, maxX, widthPx, scale, tops, bands }: Outline & LogFrame) {
  const paths = useMemo(() => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < tops.length; i++) {
      if (minX[i] < low) low = minX[i];
      if (maxX[i] > high) high = maxX[i];
    }
    const middle = (low + high) / 2;
    // To scale where the column is wide enough, else as wide as the column.
    const perMm = Math.min(scale.pxPerMm, (widthPx - 32) / Math.max(1, high - low));
    const colourOf = (layer: number) =>
      bands.find((band) => layer >= band.firstLayer && layer <= band.lastLayer)?.colour ?? "var(--base)";
    const drawn: { d: string; colour: string }[] = [];
    for (let i = 0; i < tops.length; i++) {
      const below = i === 0 ? 0 : tops[i - 1];
      if (!(maxX[i] > minX[i]) || tops[i] <= below) continue;
      const x = (widthPx - GAP_PX) / 2 + (minX[i] - middle) * perMm;
      const y = scale.y(tops[i]);
      const d = `M${x.toFixed(1)} ${y.toFixed(1)}h${((maxX[i] - minX[i]) * perMm).toFixed(1)}V${(scale.y(below) + 0.2).toFixed(1)}H${x.toFixed(1)}Z`;
      const colour = colourOf(i);
      const last = drawn[drawn.length - 1];
      if (last?.colour === colour) last.d += d;
      else drawn.push({ d, colour });
    }
    return drawn;
  }, [minX, maxX, widthPx, scale, tops, bands]);
  return (
    <svg
      width={widthPx - GAP_PX}
      height={scale.heightPx}
      className={styles.drawing}
      role="img"
      aria-label="Width of the material at each height"
    >
      {paths.map(({ d, colour }, i) => (
        <path key={i} d={d} fill={colour} opacity={0.85} />
      ))}
    </svg>
  );
}
