"use client";
/** A sheet as it is laid: from above and from the front, the row under the pointer lit, and played. */
import { useEffect, useRef, useState } from "react";
import { laysMaterial } from "@/core/gcode/moves";
import type { LaidSheet } from "@/core/sheets/lay-sheet";
import { cleanCanvas } from "../common/canvas";
import { Choice } from "../common/choice";
import { Button } from "antd";
import { useScheme } from "../frame/scheme";
import { palettes } from "../theme/tokens";
import styles from "./sheet-page.module.css";

const ABOVE_PX = 400;
const FRONT_PX = 150;
const MARGIN_PX = 14;
/** So many times as fast as it would be printed. */
const rates = [1, 4, 20, 100, 500];

interface Props {
  laid: LaidSheet | null;
  lit: string | null;
}

export function SheetDrawing({ laid, lit }: Props) {
  const [rate, setRate] = useState(20);
  const [played, setPlayed] = useState<number | null>(null);
  const isPlaying = played !== null;
  useEffect(() => setPlayed(null), [laid]);
  useEffect(() => {
    if (!isPlaying || !laid) return;
    let frame = 0;
    let last = performance.now();
    let at = 0;
    let owed = 0;
    const step = (now: number) => {
      owed += ((now - last) / 1000) * rate;
      last = now;
      const { moves } = laid;
      while (at < moves.count && owed > 0) owed -= secondsOf(laid, at++);
      setPlayed(at);
      if (at < moves.count) frame = requestAnimationFrame(step);
      else setPlayed(null);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [isPlaying, laid, rate]);
  const row = laid && lit !== null ? laid.fields.indexOf(lit) : -1;
  return (
    <div className={styles.drawings}>
      <Picture laid={laid} row={row} until={played} view="above" heightPx={ABOVE_PX} />
      <Picture laid={laid} row={row} until={played} view="front" heightPx={FRONT_PX} />
      <p className="dim line">
        <Button size="small" disabled={!laid} onClick={() => setPlayed(isPlaying ? null : 0)}>
          {isPlaying ? "Stop" : "Play"}
        </Button>
        <Choice
          label="How fast it is played"
          small
          value={rate}
          options={rates.map((value) => ({ value, label: value === 1 ? "in real time" : `${value} × as fast` }))}
          onChange={(next) => setRate(Number(next))}
        />
      </p>
    </div>
  );
}

function secondsOf({ moves }: LaidSheet, i: number): number {
  if (i === 0) return 0;
  const mm = Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1], moves.z[i] - moves.z[i - 1]);
  const speed = Number.isFinite(moves.feedMmS[i]) && moves.feedMmS[i] > 0 ? moves.feedMmS[i] : 100;
  return Math.max(mm, Math.abs(moves.filamentMm[i]) * 0.1) / speed;
}

interface PictureProps {
  laid: LaidSheet | null;
  row: number;
  /** So many moves are laid so far; all of them where it is null. */
  until: number | null;
  view: "above" | "front";
  heightPx: number;
}

function Picture({ laid, row, until, view, heightPx }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  useEffect(() => {
    const width = canvas.current?.clientWidth ?? 0;
    const context = cleanCanvas(canvas.current, { widthPx: width, heightPx });
    if (!context || !laid) return;
    const { moves } = laid;
    const v = view === "above" ? moves.y : moves.z;
    const room = { minX: Infinity, maxX: -Infinity, minV: view === "above" ? Infinity : 0, maxV: -Infinity };
    for (let i = 1; i < moves.count; i++) {
      if (!laysMaterial(moves.kind[i])) continue;
      room.minX = Math.min(room.minX, moves.x[i], moves.x[i - 1]);
      room.maxX = Math.max(room.maxX, moves.x[i], moves.x[i - 1]);
      room.minV = Math.min(room.minV, v[i], v[i - 1]);
      room.maxV = Math.max(room.maxV, v[i], v[i - 1]);
    }
    if (room.maxX < room.minX) return;
    const perMm = Math.min(
      (width - 2 * MARGIN_PX) / Math.max(1, room.maxX - room.minX),
      (heightPx - 2 * MARGIN_PX) / Math.max(1, room.maxV - room.minV),
    );
    const px = (mm: number) => width / 2 + (mm - (room.minX + room.maxX) / 2) * perMm;
    const py = (mm: number) => heightPx / 2 - (mm - (room.minV + room.maxV) / 2) * perMm;
    const stroke = (colour: string, widthPx: number, wanted: (i: number) => boolean) => {
      context.beginPath();
      let open = -2;
      for (let i = 1; i < moves.count; i++) {
        if (!laysMaterial(moves.kind[i]) || !wanted(i)) continue;
        if (open !== i - 1) context.moveTo(px(moves.x[i - 1]), py(v[i - 1]));
        context.lineTo(px(moves.x[i]), py(v[i]));
        open = i;
      }
      context.strokeStyle = colour;
      context.lineWidth = widthPx;
      context.lineCap = "round";
      context.stroke();
    };
    const bead = Math.max(0.8, Math.min(4, 0.45 * perMm));
    if (until !== null) {
      context.globalAlpha = 0.25;
      stroke(palette.primary, bead, (i) => i >= until);
      context.globalAlpha = 1;
    }
    stroke(palette.primary, bead, (i) => until === null || i < until);
    if (row >= 0) stroke(palette.mustard, bead + 1.4, (i) => laid.row[i] === row);
    if (until !== null && until > 0) {
      const at = Math.min(until, moves.count - 1);
      context.beginPath();
      context.arc(px(moves.x[at]), py(v[at]), 5, 0, 2 * Math.PI);
      context.fillStyle = palette.mustard;
      context.fill();
      context.strokeStyle = palette.ink;
      context.lineWidth = 1;
      context.stroke();
    }
  }, [laid, row, until, view, heightPx, palette]);
  const says = view === "above" ? "The sheet from above" : "The sheet from the front";
  return (
    <canvas
      ref={canvas}
      className="card"
      style={{ width: "100%", height: heightPx, padding: 0 }}
      role="img"
      aria-label={`${says}: ${laid ? `${laid.strokes.toLocaleString("en")} strokes` : "nothing yet"}`}
    />
  );
}
