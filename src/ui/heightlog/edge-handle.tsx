"use client";
import { useRef } from "react";
import { plainNumber } from "@/core/units";
import type { LogBand } from "./column";
import type { LogScale } from "./scale";
import styles from "./height-log.module.css";

/** The ring on a band's lower edge: dragged with the pointer, nudged with the arrow keys. */
export function EdgeHandle({
  band,
  scale,
  left,
  onMove,
}: {
  band: LogBand;
  scale: LogScale;
  left: number;
  onMove(mm: number, gesture: string): void;
}) {
  const start = useRef<{ y: number; mm: number; gesture: string } | null>(null);
  const y = scale.y(band.fromMm);
  return (
    <button
      className={styles.edge}
      style={{ left, top: y }}
      aria-label={`Lower edge of band ${band.number}, at ${plainNumber(band.fromMm)} mm. Arrow keys move it by one millimetre.`}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { y: event.clientY, mm: band.fromMm, gesture: `drag ${event.timeStamp}` };
      }}
      onPointerMove={(event) => {
        if (!start.current) return;
        onMove(start.current.mm - (event.clientY - start.current.y) / scale.pxPerMm, start.current.gesture);
      }}
      onPointerUp={() => (start.current = null)}
      onPointerCancel={() => (start.current = null)}
      onKeyDown={(event) => {
        if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
        event.preventDefault();
        event.stopPropagation();
        onMove(band.fromMm + (event.key === "ArrowUp" ? 1 : -1), `key ${event.timeStamp}`);
      }}
    >
      <svg width={22} height={14} aria-hidden>
        <circle cx={11} cy={7} r={4.5} fill="var(--surface)" stroke="var(--primary)" strokeWidth={1.6} />
      </svg>
    </button>
  );
}
