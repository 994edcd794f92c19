"use client";
/** A sheet from above or from the front: all of it, the row that is lit, and what is laid so far while it is played. */
import { PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { SheetView } from "@/workers/sheet-messages";
import { cleanCanvas } from "../common/canvas";
import { useScheme } from "../frame/scheme";
import { palettes } from "../theme/tokens";
import { Brush, FIRST_MS, layerOfMove, moveAt, Painter, Projection, projectionOf, shadesOf, Side } from "./paint";
import type { Play } from "./play";
import styles from "./sheet-page.module.css";

export interface Lit {
  field: string | null;
  /** One stroke of that row, where the pointer is on it. */
  stroke: number | null;
}

interface Props {
  view: SheetView | null;
  side: Side;
  heightPx: number;
  lit: Lit;
  play: Play;
  onLit(lit: Lit): void;
}

const NEAR_PX = 7;
const HEAD_PX = 5;

export function SheetPicture({ view, side, heightPx, lit, play, onLit }: Props) {
  const base = useRef<HTMLCanvasElement>(null);
  const done = useRef<HTMLCanvasElement>(null);
  const top = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLSpanElement>(null);
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  const widthPx = useWidth(base);
  const projection = useMemo(
    () => (view && widthPx > 0 ? projectionOf(view, side, widthPx, heightPx) : null),
    [view, side, widthPx, heightPx],
  );
  const beadPx = projection ? Math.max(0.8, Math.min(4, 0.45 * projection.perMm)) : 1;

  useEffect(() => {
    const context = cleanCanvas(base.current, { widthPx, heightPx });
    if (!context || !view || !projection) return;
    const painter = new Painter(context);
    const brush =
      side === "above"
        ? shadesOf(view, palette.lineStrong, palette.primary, beadPx)
        : { colour: palette.primary, widthPx: beadPx };
    painter.paint(view, side, projection, brush, { from: 0, to: view.laid.moves.count }, null, FIRST_MS);
    return () => painter.stop();
  }, [view, side, projection, widthPx, heightPx, palette, beadPx]);

  useEffect(() => {
    const context = cleanCanvas(top.current, { widthPx, heightPx });
    if (!context || !view || !projection || lit.field === null) return;
    const painter = new Painter(context);
    const { row, fields, stroke } = view.laid;
    const wanted = fieldsWithin(fields, lit.field);
    // All of it lit would tell nothing apart, and hide its shape.
    if (view.laid.strokes === 1 || (wanted.every(Boolean) && lit.stroke === null)) return;
    const all = { from: 0, to: view.laid.moves.count };
    const brush = { colour: palette.mustard, widthPx: beadPx + 1.4 };
    if (!wanted.every(Boolean)) painter.paint(view, side, projection, brush, all, (i) => wanted[row[i]]);
    if (lit.stroke === null) return () => painter.stop();
    const one = new Painter(context);
    one.paint(
      view,
      side,
      projection,
      { colour: palette.trace, widthPx: beadPx + 2 },
      all,
      (i) => stroke[i] === lit.stroke,
    );
    return () => {
      painter.stop();
      one.stop();
    };
  }, [view, side, projection, lit, widthPx, heightPx, palette, beadPx]);

  usePlayed({
    view,
    side,
    projection,
    play,
    done,
    head,
    size: { widthPx, heightPx },
    brush: { colour: palette.primary, widthPx: beadPx },
  });

  const point = (event: PointerEvent<HTMLElement>) => {
    if (!view || !projection) return;
    const { left, top: topPx } = event.currentTarget.getBoundingClientRect();
    const move = moveAt(view, side, projection, { x: event.clientX - left, y: event.clientY - topPx }, NEAR_PX);
    if (move < 0) onLit({ field: null, stroke: null });
    else onLit({ field: view.laid.fields[view.laid.row[move]], stroke: view.laid.stroke[move] });
  };
  const strokes = view?.laid.strokes ?? 0;
  return (
    <div
      className={`card ${styles.picture}`}
      style={{ height: heightPx }}
      role="img"
      aria-label={`The sheet from ${side === "above" ? "above" : "the front"}: ${view ? `${strokes.toLocaleString("en")} ${strokes === 1 ? "stroke" : "strokes"}` : "nothing yet"}`}
      onPointerMove={point}
      onPointerLeave={() => onLit({ field: null, stroke: null })}
    >
      <canvas ref={base} style={{ opacity: play.isOn ? 0.25 : 1 }} />
      <canvas ref={done} />
      <canvas ref={top} />
      <span ref={head} className={styles.head} hidden />
    </div>
  );
}

/** For every row whether it is lit: the row itself, and all rows in it. */
export function fieldsWithin(fields: readonly string[], lit: string): boolean[] {
  return fields.map((field) => field === lit || field.startsWith(`${lit}.`));
}

function useWidth(canvas: React.RefObject<HTMLCanvasElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = canvas.current?.parentElement;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, [canvas]);
  return width;
}

interface Played {
  view: SheetView | null;
  side: Side;
  projection: Projection | null;
  play: Play;
  done: React.RefObject<HTMLCanvasElement | null>;
  head: React.RefObject<HTMLSpanElement | null>;
  size: { widthPx: number; heightPx: number };
  brush: Brush;
}

/** Paints what was laid since the last frame, and puts the head where it is. From above only the layer at hand is shown as laid. */
function usePlayed({ view, side, projection, play: { listen }, done, head, size, brush }: Played): void {
  const { widthPx, heightPx } = size;
  const { colour, widthPx: beadPx } = brush;
  useEffect(() => {
    if (!view || !projection) return;
    const { moves, layerStarts } = view.laid;
    const v = side === "above" ? moves.y : moves.z;
    let painter: Painter | null = null;
    const clear = (from: number) => {
      const context = cleanCanvas(done.current, { widthPx, heightPx });
      painter?.stop();
      painter = context && new Painter(context);
      if (painter) painter.at = from;
    };
    const stop = listen((place) => {
      if (head.current) head.current.hidden = place === null;
      if (!place) {
        clear(0);
        return;
      }
      const { move, share } = place;
      const begun = side === "above" ? layerStarts[layerOfMove(layerStarts, move)] : 0;
      if (!painter || move < painter.at || painter.at < begun) clear(begun);
      // What the last frame did not come to is painted with this one's.
      if (painter && move > painter.at)
        painter.paint(view, side, projection, { colour, widthPx: beadPx }, { from: painter.at, to: move });
      if (head.current && move > 0) {
        const x = moves.x[move - 1] + (moves.x[move] - moves.x[move - 1]) * share;
        const up = v[move - 1] + (v[move] - v[move - 1]) * share;
        head.current.style.transform = `translate(${projection.px(x) - HEAD_PX}px, ${projection.py(up) - HEAD_PX}px)`;
      }
    });
    return () => {
      stop();
      painter?.stop();
    };
  }, [view, side, projection, listen, done, head, widthPx, heightPx, colour, beadPx]);
}
