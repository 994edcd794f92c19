"use client";
/**
 * The height log: height runs up the page from the bed, and everything that happens at a height stands on that one axis, in
 * columns. One component for trials, opened files and jobs; the columns make the difference.
 */
import { KeyboardEvent, PointerEvent, ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { plainNumber } from "@/core/units";
import { useScheme } from "../frame/scheme";
import { palettes } from "../theme/tokens";
import type { LogBand, LogColumn } from "./columns";
import { CurvesColumn, CurveTicks, curveRange } from "./curves-column";
import { penOf } from "./curve-pen";
import { FrontCanvas, sayStretch } from "./front-canvas";
import { LayerNames, Millimetres } from "./axis";
import { MarksColumn } from "./marks-column";
import { LogScale, logScale } from "./scale";
import { ValuesColumn } from "./values-column";
import { layerForKey } from "./log-keys";

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
  children?: ReactNode;
}

const MOST_ZOOM = 30;
const CROWDED_PX = 13;

export function HeightLog(props: Props) {
  const { label, columns, bands, tops, topMm, cursorLayer, onCursor, onMoveEdge, roomPx, onFill } = props;
  const { scheme } = useScheme();
  const palette = palettes[scheme];
  const [zoom, setZoom] = useState(1);
  const body = useRef<HTMLDivElement>(null);
  const slider = useRef<HTMLDivElement>(null);

  const specimen = columns.find((column) => column.kind === "front");
  const widestMm = specimen ? specimen.widthMm : 0;
  const widestPx = specimen ? specimen.width - 12 : 0;
  const lowestBandMm = Math.max(0.05, Math.min(...bands.map(({ fromMm, toMm }) => toMm - fromMm)));
  const scale = useMemo(
    () =>
      logScale(
        topMm,
        roomPx,
        zoom,
        widestMm > 0 && zoom === 1 ? { widthMm: widestMm, px: widestPx, lowestBandMm } : undefined,
      ),
    [topMm, roomPx, zoom, widestMm, widestPx, lowestBandMm],
  );
  const lefts = useMemo(() => {
    let left = 0;
    return columns.map(({ width }) => (left += width) - width);
  }, [columns]);
  const totalWidth = columns.reduce((sum, { width }) => sum + width, 0);

  const cursor = Math.min(Math.max(0, cursorLayer), Math.max(0, tops.length - 1));
  const cursorMm = tops.length > 0 ? tops[cursor] : 0;
  // Keep the cursor in sight when the keys move it.
  useEffect(() => {
    const element = body.current;
    if (!element || element.scrollHeight <= element.clientHeight) return;
    const y = scale.y(cursorMm);
    if (y < element.scrollTop + 30) element.scrollTop = y - 30;
    else if (y > element.scrollTop + element.clientHeight - 30) element.scrollTop = y - element.clientHeight + 30;
  }, [cursorMm, scale]);

  // Bands too low to tell apart: lines thin out, and edges are dragged after zooming in.
  const crowded = bands.length > 1 && bands.every(({ fromMm, toMm }) => (toMm - fromMm) * scale.pxPerMm < CROWDED_PX);

  const zoomTo = (next: number) => setZoom(Math.min(MOST_ZOOM, Math.max(1, next)));

  const press = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const layer = layerForKey(event.key, event.shiftKey, { cursor, lastLayer: tops.length - 1, bands });
    if (layer !== null) onCursor(layer);
    else if (event.key === "+" || event.key === "=") zoomTo(zoom * 1.5);
    else if (event.key === "-") zoomTo(zoom / 1.5);
    else return;
    event.preventDefault();
  };

  const pointAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const mm = scale.mm(event.clientY - box.top);
    let layer = 0;
    while (layer < tops.length - 1 && tops[layer] < mm) layer++;
    onCursor(layer);
    // A click on the log hands the keys to its cursor.
    event.preventDefault();
    slider.current?.focus({ preventScroll: true });
  };

  const chartLeft = lefts[columns.findIndex(({ kind }) => kind !== "millimetres")] ?? 0;
  return (
    <div className="log">
      <div style={{ width: totalWidth }}>
        <div className="log-heads">
          {columns.map((column, i) => (
            <div key={i} style={{ width: column.width }}>
              {column.title}
              {column.kind === "front" && sayStretch(scale, column.widthMm, column.width - 12)}
              {column.kind === "curves" && (
                <>
                  <Legend column={column} />
                  <CurveTicks column={column} range={curveRange(column)} />
                </>
              )}
            </div>
          ))}
        </div>
        <div
          ref={body}
          className="log-body"
          role="group"
          aria-label={label}
          onKeyDown={press}
          onWheel={(event) => {
            if (event.ctrlKey) zoomTo(zoom * (event.deltaY < 0 ? 1.2 : 1 / 1.2));
          }}
          style={{ height: Math.min(roomPx, scale.heightPx), width: totalWidth }}
        >
          <div style={{ position: "relative", height: scale.heightPx }} onPointerDown={pointAt}>
            {columns.map((column, i) => (
              <div key={i} style={{ position: "absolute", left: lefts[i], top: 0 }}>
                {(column.kind === "front" || column.kind === "outline" || column.kind === "curves") && (
                  <ColumnGround width={column.width} scale={scale} bands={bands} />
                )}
                {column.kind === "front" && (
                  <div style={{ position: "absolute", top: 0 }}>
                    <FrontCanvas
                      front={column.front}
                      widthMm={column.widthMm}
                      widthPx={column.width - 12}
                      scale={scale}
                      bands={bands}
                    />
                  </div>
                )}
                {column.kind === "outline" && <Outline column={column} scale={scale} tops={tops} bands={bands} />}
                {column.kind === "curves" && <CurvesColumn column={column} scale={scale} tops={tops} />}
              </div>
            ))}
            <svg
              width={totalWidth}
              height={scale.heightPx}
              style={{ position: "absolute", inset: 0, pointerEvents: "none" }}
              aria-hidden
            >
              <Millimetres
                left={lefts[columns.findIndex(({ kind }) => kind === "millimetres")] ?? 0}
                scale={scale}
                colour={palette.lineStrong}
              />
              {bands.map((band, i) => (
                <line
                  key={i}
                  x1={chartLeft}
                  x2={totalWidth - 30}
                  y1={scale.y(band.fromMm)}
                  y2={scale.y(band.fromMm)}
                  stroke={band.colour}
                  strokeWidth={crowded ? 0.7 : 1.4}
                  opacity={crowded ? 0.5 : 1}
                />
              ))}
              <line
                x1={chartLeft - 18}
                x2={totalWidth - 30}
                y1={scale.y(0)}
                y2={scale.y(0)}
                stroke={palette.ink}
                strokeWidth={2}
              />
              {columns.map((column, i) =>
                column.kind === "layers" ? (
                  <LayerNames key={i} left={lefts[i]} bands={bands} scale={scale} markers={column.markers} />
                ) : null,
              )}
              <Cursor
                columns={columns}
                lefts={lefts}
                y={scale.y(cursorMm)}
                mm={cursorMm}
                layer={cursor}
                width={totalWidth}
                colour={palette.mustard}
                ink={palette.onMustard}
              />
            </svg>
            <div
              ref={slider}
              className="log-cursor"
              role="slider"
              aria-label={`${label}: cursor layer`}
              aria-orientation="vertical"
              aria-valuemin={1}
              aria-valuemax={Math.max(1, tops.length)}
              aria-valuenow={cursor + 1}
              aria-valuetext={`layer ${cursor + 1} of ${tops.length}, top at ${plainNumber(cursorMm)} mm`}
              tabIndex={0}
              style={{
                left: lefts[columns.findIndex(({ kind }) => kind === "millimetres")] ?? 0,
                top: scale.y(cursorMm),
              }}
            />
            {onMoveEdge &&
              !crowded &&
              bands.map((band, i) => (
                <EdgeHandle
                  key={i}
                  band={band}
                  scale={scale}
                  left={edgeLeft(columns, lefts)}
                  onMove={(mm, gesture) => onMoveEdge(i, mm, gesture)}
                />
              ))}
            {columns.map((column, i) =>
              column.kind === "marks" ? (
                <MarksColumn key={i} left={lefts[i]} width={column.width} marks={column.marks} scale={scale} />
              ) : null,
            )}
            {columns.map((column, i) =>
              column.kind === "values" && column.values ? (
                <ValuesColumn key={i} left={lefts[i]} values={column.values} bands={bands} scale={scale} />
              ) : null,
            )}
          </div>
        </div>
      </div>
      <div className="log-foot">
        <span>
          <kbd>↑</kbd> <kbd>↓</kbd> layer
        </span>
        <span>
          <kbd>Shift</kbd>+<kbd>↑</kbd> <kbd>↓</kbd> band
        </span>
        {onFill && (
          <button className="link-button" onClick={onFill}>
            <kbd>F</kbd> fill values
          </button>
        )}
        <span>
          <kbd>?</kbd> all keys
        </span>
        <span>
          <button className="link-button" onClick={() => zoomTo(zoom / 1.5)} aria-label="Zoom out" disabled={zoom <= 1}>
            −
          </button>{" "}
          zoom{" "}
          <button className="link-button" onClick={() => zoomTo(zoom * 1.5)} aria-label="Zoom in">
            +
          </button>
        </span>
        {props.children}
      </div>
    </div>
  );
}

function Legend({ column }: { column: Extract<LogColumn, { kind: "curves" }> }) {
  if (column.curves.length < 2) return <small>&nbsp;</small>;
  return (
    <small>
      {column.curves.map(({ label, style }) => (
        <span key={label} style={{ marginRight: 8 }}>
          <svg width={18} height={8} aria-hidden>
            <line x1={1} x2={17} y1={5} y2={5} {...penOf(style)} />
          </svg>{" "}
          {label}
        </span>
      ))}
    </small>
  );
}

function edgeLeft(columns: LogColumn[], lefts: number[]): number {
  const index = columns.findIndex(({ kind }) => kind === "front" || kind === "outline");
  return index < 0 ? 0 : lefts[index] + columns[index].width - 12;
}

/** The pale ground of a column, tinted where the bands lie. */
function ColumnGround({ width, scale, bands }: { width: number; scale: LogScale; bands: LogBand[] }) {
  return (
    <svg width={width - 12} height={scale.heightPx} style={{ display: "block" }} aria-hidden>
      <rect
        x={0.5}
        y={0.5}
        width={width - 13}
        height={Math.max(0, scale.y(0) - 0.5)}
        fill="var(--surface)"
        stroke="var(--line)"
      />
      {bands.map((band, i) => (
        <rect
          key={i}
          x={1}
          width={width - 14}
          y={scale.y(band.toMm)}
          height={Math.max(0, scale.y(band.fromMm) - scale.y(band.toMm))}
          fill={band.colour}
          opacity={0.12}
        />
      ))}
    </svg>
  );
}

function Cursor(props: {
  columns: LogColumn[];
  lefts: number[];
  y: number;
  mm: number;
  layer: number;
  width: number;
  colour: string;
  ink: string;
}) {
  const { columns, lefts, y, mm, layer, width, colour, ink } = props;
  const mmLeft = lefts[columns.findIndex(({ kind }) => kind === "millimetres")] ?? 0;
  const layersIndex = columns.findIndex(({ kind }) => kind === "layers");
  const layerLeft = layersIndex < 0 ? 0 : lefts[layersIndex];
  const style = { fill: ink, fontWeight: 700 };
  return (
    <g>
      <line x1={mmLeft + 54} x2={width - 30} y1={y} y2={y} stroke={colour} strokeWidth={1.6} />
      <rect x={mmLeft} y={y - 11} width={54} height={22} rx={5} fill={colour} />
      <text x={mmLeft + 27} y={y + 4} textAnchor="middle" style={style}>
        {plainNumber(mm, 2)}
      </text>
      {layersIndex >= 0 && (
        <>
          <rect x={layerLeft - 6} y={y - 11} width={56} height={22} rx={5} fill={colour} />
          <text x={layerLeft + 22} y={y + 4} textAnchor="middle" style={style}>
            L{layer + 1}
          </text>
        </>
      )}
    </g>
  );
}

/** The ring on a band's lower edge: dragged with the pointer, nudged with the arrow keys. */
function EdgeHandle({
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
      className="log-edge"
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

/** How wide the material of each layer is: an opened file seen from the front, as far as its moves tell. */
function Outline({
  column,
  scale,
  tops,
  bands,
}: {
  column: Extract<LogColumn, { kind: "outline" }>;
  scale: LogScale;
  tops: ArrayLike<number>;
  bands: LogBand[];
}) {
  const { minX, maxX, width } = column;
  const paths = useMemo(() => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < tops.length; i++) {
      if (minX[i] < low) low = minX[i];
      if (maxX[i] > high) high = maxX[i];
    }
    const middle = (low + high) / 2;
    // To scale where the column is wide enough, else as wide as the column.
    const perMm = Math.min(scale.pxPerMm, (width - 32) / Math.max(1, high - low));
    const colourOf = (layer: number) =>
      bands.find((band) => layer >= band.firstLayer && layer <= band.lastLayer)?.colour ?? "var(--base)";
    const drawn: { d: string; colour: string }[] = [];
    for (let i = 0; i < tops.length; i++) {
      const below = i === 0 ? 0 : tops[i - 1];
      if (!(maxX[i] > minX[i]) || tops[i] <= below) continue;
      const x = (width - 12) / 2 + (minX[i] - middle) * perMm;
      const y = scale.y(tops[i]);
      const d = `M${x.toFixed(1)} ${y.toFixed(1)}h${((maxX[i] - minX[i]) * perMm).toFixed(1)}V${(scale.y(below) + 0.2).toFixed(1)}H${x.toFixed(1)}Z`;
      const colour = colourOf(i);
      const last = drawn[drawn.length - 1];
      if (last?.colour === colour) last.d += d;
      else drawn.push({ d, colour });
    }
    return drawn;
  }, [minX, maxX, width, scale, tops, bands]);
  return (
    <svg
      width={width - 12}
      height={scale.heightPx}
      style={{ position: "absolute", top: 0, left: 0 }}
      role="img"
      aria-label="Width of the material at each height"
    >
      {paths.map(({ d, colour }, i) => (
        <path key={i} d={d} fill={colour} opacity={0.85} />
      ))}
    </svg>
  );
}
