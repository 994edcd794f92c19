"use client";
/**
 * The height log: height runs up the page from the bed, and everything that happens at a height stands on that one axis, in
 * columns. One component for trials, opened files and jobs; the columns make the difference, and draw themselves.
 */
import { KeyboardEvent, PointerEvent, ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { plainNumber } from "@/core/units";
import { GAP_PX, LogBand, LogColumn, LogCursor, LogFrame } from "./column";
import { ColumnGround } from "./column-ground";
import { EdgeHandle } from "./edge-handle";
import { LogFoot, ZOOM_STEP } from "./log-foot";
import { layerForKey } from "./log-keys";
import { LogScale, logScale } from "./scale";
import styles from "./height-log.module.css";

interface Props {
  label: string;
  columns: LogColumn[];
  bands: LogBand[];
  /** Heights of the layer tops, mm. */
  tops: ArrayLike<number>;
  topMm: number;
  cursorLayer: number;
  onCursor(layer: number): void;
  /** Called while an edge is dragged or nudged: the band that starts there (index), and the height asked for. */
  onMoveEdge?(bandIndex: number, mm: number, gesture: string): void;
  /** Room for the drawing, px. */
  roomPx: number;
  /** Fills the bands with values. */
  onFill?(): void;
  /** What the keys do, where they do something else than on a plan. */
  keys?: ReactNode;
  children?: ReactNode;
}

const MOST_ZOOM = 30;
const WHEEL_STEP = 1.2;
/** Bands lower than this cannot be told apart: their lines thin out, and edges are dragged after zooming in. */
const CROWDED_PX = 13;
/** The cursor stays so far from the edge of what is seen. */
const IN_SIGHT_PX = 30;
/** Lines across the log end before the last column's fields do. */
const LINE_END_PX = 30;

export function HeightLog(props: Props) {
  const { label, columns, bands, tops, cursorLayer, onCursor, onMoveEdge, roomPx, onFill, keys, children } = props;
  const [zoom, setZoom] = useState(1);
  const body = useRef<HTMLDivElement>(null);
  const slider = useRef<HTMLDivElement>(null);
  const scale = useLogScale(props, zoom);
  const placed = useMemo(() => placeColumns(columns), [columns]);
  const totalPx = columns.reduce((sum, { widthPx }) => sum + widthPx, 0);
  const layer = Math.min(Math.max(0, cursorLayer), Math.max(0, tops.length - 1));
  const cursor: LogCursor = { layer, mm: tops.length > 0 ? tops[layer] : 0 };
  const frameAt = (leftPx: number): LogFrame => ({ scale, tops, bands, leftPx });
  useInSight(body, scale, cursor.mm);

  const isCrowded = bands.length > 1 && bands.every(({ fromMm, toMm }) => (toMm - fromMm) * scale.pxPerMm < CROWDED_PX);
  const zoomTo = (next: number) => setZoom(Math.min(MOST_ZOOM, Math.max(1, next)));
  const press = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const next = layerForKey(event.key, event.shiftKey, { cursor: layer, lastLayer: tops.length - 1, bands });
    if (next !== null) onCursor(next);
    else if (event.key === "+" || event.key === "=") zoomTo(zoom * ZOOM_STEP);
    else if (event.key === "-") zoomTo(zoom / ZOOM_STEP);
    else return;
    event.preventDefault();
  };
  const point = (event: PointerEvent<HTMLElement>) => {
    const mm = scale.mm(event.clientY - event.currentTarget.getBoundingClientRect().top);
    let at = 0;
    while (at < tops.length - 1 && tops[at] < mm) at++;
    onCursor(at);
    // A click on the log hands the keys to its cursor.
    event.preventDefault();
    slider.current?.focus({ preventScroll: true });
  };
  const edges = placed.find(({ column }) => column.holdsEdges);
  return (
    <div className={styles.log}>
      <div style={{ width: totalPx }}>
        <div className={styles.heads}>
          {placed.map(({ column, leftPx }, i) => (
            <div key={i} style={{ width: column.widthPx }}>
              {column.title}
              {column.head?.(frameAt(leftPx))}
            </div>
          ))}
        </div>
        <div
          ref={body}
          className={styles.body}
          role="group"
          aria-label={label}
          onKeyDown={press}
          onWheel={({ ctrlKey, deltaY }) => ctrlKey && zoomTo(zoom * (deltaY < 0 ? WHEEL_STEP : 1 / WHEEL_STEP))}
          style={{ height: Math.min(roomPx, scale.heightPx), width: totalPx }}
        >
          <div className={styles.chart} style={{ height: scale.heightPx }} onPointerDown={point}>
            {placed.map(({ column, leftPx }, i) => (
              <div key={i} className={styles.column} style={{ left: leftPx }}>
                {column.hasGround && <ColumnGround widthPx={column.widthPx} scale={scale} bands={bands} />}
                {column.drawing?.(frameAt(leftPx))}
              </div>
            ))}
            <Strokes placed={placed} frame={frameAt(0)} cursor={cursor} widthPx={totalPx} isCrowded={isCrowded} />
            <div
              ref={slider}
              className={styles.cursor}
              role="slider"
              aria-label={`${label}: cursor layer`}
              aria-orientation="vertical"
              aria-valuemin={1}
              aria-valuemax={Math.max(1, tops.length)}
              aria-valuenow={layer + 1}
              aria-valuetext={`layer ${layer + 1} of ${tops.length}, top at ${plainNumber(cursor.mm)} mm`}
              tabIndex={0}
              style={{ left: placed.find(({ column }) => column.isAxis)?.leftPx ?? 0, top: scale.y(cursor.mm) }}
            />
            {onMoveEdge &&
              !isCrowded &&
              edges &&
              bands.map((band, i) => (
                <EdgeHandle
                  key={i}
                  label={`Lower edge of band ${band.number}, at ${plainNumber(band.fromMm)} mm.`}
                  mm={band.fromMm}
                  scale={scale}
                  left={edges.leftPx + edges.column.widthPx - GAP_PX}
                  onMove={(mm, gesture) => onMoveEdge(i, mm, gesture)}
                />
              ))}
            {placed.map(({ column, leftPx }, i) => (
              <div key={i}>{column.over?.(frameAt(leftPx))}</div>
            ))}
          </div>
        </div>
      </div>
      <LogFoot zoom={zoom} onZoom={zoomTo} onFill={onFill} keys={keys}>
        {children}
      </LogFoot>
    </div>
  );
}

interface PlacedColumn {
  column: LogColumn;
  leftPx: number;
}

/** Columns from left to right, each with its left side. */
function placeColumns(columns: LogColumn[]): PlacedColumn[] {
  let rightPx = 0;
  return columns.map((column) => {
    const leftPx = rightPx;
    rightPx += column.widthPx;
    return { column, leftPx };
  });
}

/** The one scale of everything on the log. */
function useLogScale({ columns, bands, topMm, roomPx }: Props, zoom: number): LogScale {
  const piece = columns.find(({ toScaleMm }) => toScaleMm !== undefined);
  const widthMm = piece?.toScaleMm ?? 0;
  const px = piece ? piece.widthPx - GAP_PX : 0;
  const lowest = bands.reduce((least, { fromMm, toMm }) => Math.min(least, toMm - fromMm), Infinity);
  const lowestBandMm = Math.max(0.05, lowest);
  return useMemo(() => {
    const isToScale = widthMm > 0 && zoom === 1;
    return logScale(topMm, roomPx, zoom, isToScale ? { widthMm, px, lowestBandMm } : undefined);
  }, [topMm, roomPx, zoom, widthMm, px, lowestBandMm]);
}

/** Keeps the cursor in sight when the keys move it. */
function useInSight(body: { current: HTMLElement | null }, scale: LogScale, mm: number): void {
  useEffect(() => {
    const element = body.current;
    if (!element || element.scrollHeight <= element.clientHeight) return;
    const y = scale.y(mm);
    const bottom = element.scrollTop + element.clientHeight;
    if (y < element.scrollTop + IN_SIGHT_PX) element.scrollTop = y - IN_SIGHT_PX;
    else if (y > bottom - IN_SIGHT_PX) element.scrollTop = y - element.clientHeight + IN_SIGHT_PX;
  }, [body, mm, scale]);
}

interface StrokesProps {
  placed: PlacedColumn[];
  frame: LogFrame;
  cursor: LogCursor;
  widthPx: number;
  isCrowded: boolean;
}

/** The one drawing over all columns: the axis, the bands' edges, the bed and the cursor. */
function Strokes({ placed, frame, cursor, widthPx, isCrowded }: StrokesProps) {
  const { scale, bands } = frame;
  const chartPx = placed.find(({ column }) => !column.isAxis)?.leftPx ?? 0;
  const endPx = widthPx - LINE_END_PX;
  const y = scale.y(cursor.mm);
  const axis = placed.find(({ column }) => column.isAxis);
  const cursorFromPx = axis ? axis.leftPx + (axis.column.tagAt?.width ?? 0) : 0;
  return (
    <svg width={widthPx} height={scale.heightPx} className={styles.strokes} aria-hidden>
      {bands.map((band, i) => (
        <line
          key={i}
          x1={chartPx}
          x2={endPx}
          y1={scale.y(band.fromMm)}
          y2={scale.y(band.fromMm)}
          stroke={band.colour}
          strokeWidth={isCrowded ? 0.7 : 1.4}
          opacity={isCrowded ? 0.5 : 1}
        />
      ))}
      <line x1={chartPx - 18} x2={endPx} y1={scale.y(0)} y2={scale.y(0)} stroke="var(--ink)" strokeWidth={2} />
      {placed.map(({ column, leftPx }, i) => (
        <g key={i}>{column.strokes?.({ ...frame, leftPx })}</g>
      ))}
      <line x1={cursorFromPx} x2={endPx} y1={y} y2={y} stroke="var(--mustard)" strokeWidth={1.6} />
      {placed.map(({ column, leftPx }, i) => {
        if (!column.tag || !column.tagAt) return null;
        const { left, width } = column.tagAt;
        return (
          <g key={i}>
            <rect x={leftPx + left} y={y - 11} width={width} height={22} rx={5} fill="var(--mustard)" />
            <text x={leftPx + left + width / 2} y={y + 4} textAnchor="middle" className={styles.tag}>
              {column.tag(cursor)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
