"use client";
import { useRef } from "react";
import type { LogScale } from "./scale";
import styles from "./height-log.module.css";

interface Props {
  /** What it is, for who cannot see it. */
  label: string;
  mm: number;
  scale: LogScale;
  left: number;
  onMove(mm: number, gesture: string): void;
}

/** A ring that stands at a height: dragged with the pointer, nudged with the arrow keys. */
export function EdgeHandle({ label, mm, scale, left, onMove }: Props) {
  const start = useRef<{ y: number; mm: number; gesture: string } | null>(null);
  return (
    <button
      className={styles.edge}
      style={{ left, top: scale.y(mm) }}
      aria-label={`${label} Arrow keys move it by one millimetre.`}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { y: event.clientY, mm, gesture: `drag ${event.timeStamp}` };
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
        onMove(mm + (event.key === "ArrowUp" ? 1 : -1), `key ${event.timeStamp}`);
      }}
    >
      <svg width={22} height={14} aria-hidden>
        <circle cx={11} cy={7} r={4.5} fill="var(--surface)" stroke="var(--primary)" strokeWidth={1.6} />
      </svg>
    </button>
  );
}
