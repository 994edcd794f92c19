"use client";
/** The specimen seen from the front, to scale: bands in their colours, what stands farther back paler. */
import { useEffect, useRef } from "react";
import { FRONT_VIEW_STRIDE, FrontView } from "@/core/printing/front-view";
import { plainNumber } from "@/core/units";
import { cleanCanvas } from "../../common/canvas";
import { useScheme } from "../../frame/scheme";
import { mixColours, palettes } from "../../theme/tokens";
import { GAP_PX, LogBand, LogColumn } from "../column";
import type { LogScale } from "../scale";
import styles from "../height-log.module.css";

interface FrontOfPiece {
  title: string;
  widthPx: number;
  front: FrontView;
  widthMm: number;
}

interface Props {
  front: FrontView;
  widthMm: number;
  widthPx: number;
  scale: LogScale;
  bands: readonly LogBand[];
}

/** Pixels of a millimetre across: as many as along the height where the piece fits its column so, else as many as fit. */
export function acrossPxPerMm(scale: LogScale, widthMm: number, widthPx: number): number {
  return Math.min(scale.pxPerMm, widthPx / widthMm);
}

/** Says so where heights are drawn larger than widths. */
export function sayStretch(scale: LogScale, widthMm: number, widthPx: number): string {
  const stretch = scale.pxPerMm / acrossPxPerMm(scale, widthMm, widthPx);
  return stretch > 1.05 ? `, heights × ${plainNumber(stretch, 1)}` : "";
}

/** The specimen from the front, to scale where that can be. */
export function frontColumn({ title, widthPx, front, widthMm }: FrontOfPiece): LogColumn {
  const innerPx = widthPx - GAP_PX;
  return {
    title,
    widthPx,
    hasGround: true,
    holdsEdges: true,
    toScaleMm: widthMm,
    head: ({ scale }) => sayStretch(scale, widthMm, innerPx),
    drawing: ({ scale, bands }) => (
      <div className={styles.drawing}>
        <FrontCanvas front={front} widthMm={widthMm} widthPx={innerPx} scale={scale} bands={bands} />
      </div>
    ),
  };
}

function FrontCanvas({ front, widthMm, widthPx, scale, bands }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  useEffect(() => {
    const context = cleanCanvas(canvas.current, { widthPx, heightPx: scale.heightPx });
    if (!context) return;
    const middle = widthPx / 2;
    const across = acrossPxPerMm(scale, widthMm, widthPx);
    // Far ones first, so that near ones stand before them.
    const order = Array.from({ length: front.length / FRONT_VIEW_STRIDE }, (_, i) => i * FRONT_VIEW_STRIDE);
    order.sort((a, b) => front[b + 4] - front[a + 4]);
    for (const at of order) {
      const [fromX, toX, fromZ, toZ, depth, raised] = front.subarray(at, at + FRONT_VIEW_STRIDE);
      const x = middle + fromX * across;
      const width = (toX - fromX) * across;
      const paint = (low: number, high: number, colour: string, bright: boolean) => {
        const y = scale.y(high);
        // What stands farther back is paler; raised digits are bright, so that the value reads as it will on the piece.
        context.fillStyle = bright
          ? palette.raisedMark
          : mixColours(colour, palette.surface, Math.min(0.55, 0.06 + depth * 0.028));
        context.fillRect(x, y, width + 0.25, Math.max(0.5, scale.y(low) - y) + 0.25);
      };
      let low = fromZ;
      for (const band of bands) {
        if (band.toMm <= low || band.fromMm >= toZ) continue;
        if (band.fromMm > low) paint(low, band.fromMm, palette.base, false);
        const from = Math.max(low, band.fromMm);
        const to = Math.min(toZ, band.toMm);
        paint(from, to, band.colour, raised === 1);
        low = to;
      }
      if (low < toZ) paint(low, toZ, palette.base, false);
    }
  }, [front, widthMm, widthPx, scale, bands, palette]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`The piece seen from the front, bottom to top: ${bands.map(({ label }) => label).join(", ")}`}
      style={{ width: widthPx, height: scale.heightPx, display: "block" }}
    />
  );
}
