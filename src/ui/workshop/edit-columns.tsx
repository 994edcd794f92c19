"use client";
/** Each edit a column of the height log: a bracket with rings where it acts, a tick a place, a diamond for a stop. */
import type { Edit, LayerSpan } from "@/core/edits";
import type { LayerReport } from "@/core/report/report";
import { plainNumber } from "@/core/units";
import { GAP_PX, LogColumn, LogFrame } from "../heightlog/column";
import { EdgeHandle } from "../heightlog/edge-handle";
import styles from "./edit-board.module.css";
import { LogEnd, onLog } from "./on-log";
import { shortOf } from "./sentences";

/** So much of the board the columns take together, px, and one of them at least and at most. */
const ALL_PX = 400;
const COLUMN_PX = { least: 58, most: 82 };
const TICK_PX = 36;

interface Board {
  stack: readonly Edit[];
  answers: readonly { changedLines: number; places: LayerSpan[] }[];
  layers: readonly LayerReport[];
  chosen: number;
  waiting: boolean;
  /** The edit that cannot be done. */
  refused: number;
  onChoose(index: number): void;
  onDrag(index: number, end: LogEnd, mm: number, gesture: string): void;
}

export function editColumns(board: Board): LogColumn[] {
  const { stack } = board;
  const widthPx = Math.max(COLUMN_PX.least, Math.min(COLUMN_PX.most, Math.floor(ALL_PX / Math.max(1, stack.length))));
  return stack.map((edit, index) => ({
    title: "",
    widthPx,
    head: () => <Head board={board} index={index} />,
    drawing: (frame) => <Marks board={board} index={index} edit={edit} widthPx={widthPx} frame={frame} />,
    over: (frame) => <Handles board={board} index={index} edit={edit} widthPx={widthPx} frame={frame} />,
  }));
}

/** Short enough for its column. */
function sayLines(count: number): string {
  if (count >= 10_000) return `${Math.round(count / 1000)}k lines`;
  return count === 1 ? "1 line" : `${count} lines`;
}

function Head({ board, index }: { board: Board; index: number }) {
  const { stack, answers, chosen, waiting, refused, onChoose } = board;
  const edit = stack[index];
  const count = answers[index]?.changedLines ?? 0;
  const lines = refused === index ? "not done" : waiting ? "…" : sayLines(count);
  return (
    <button
      className={styles.head}
      data-off={edit.off || undefined}
      aria-pressed={chosen === index}
      onClick={() => onChoose(index)}
    >
      <b>
        <span className="visually-hidden">Edit {index + 1}: </span>
        {shortOf(edit)}
      </b>
      <span className="mono">{edit.off ? "off" : lines}</span>
    </button>
  );
}

interface ColumnProps {
  board: Board;
  index: number;
  edit: Edit;
  widthPx: number;
  frame: LogFrame;
}

function Marks({ board, index, edit, widthPx, frame }: ColumnProps) {
  const { scale } = frame;
  const { layers, answers, chosen } = board;
  const isChosen = chosen === index;
  const innerPx = widthPx - GAP_PX;
  const middle = innerPx / 2;
  const where = onLog(edit, layers);
  const ink = isChosen ? "var(--mustard)" : "var(--trace)";
  const places = edit.off ? [] : (answers[index]?.places ?? []);
  return (
    <svg width={innerPx} height={scale.heightPx} className={styles.column} data-off={edit.off || undefined} aria-hidden>
      <rect
        x={0.5}
        y={0.5}
        width={innerPx - 1}
        height={scale.heightPx - 1}
        rx={6}
        fill={isChosen ? "var(--mustard)" : "var(--surface)"}
        fillOpacity={isChosen ? 0.14 : 1}
        stroke={isChosen ? "var(--mustard)" : "var(--line)"}
        onPointerDown={() => board.onChoose(index)}
      />
      {where?.kind === "stretch" && (
        <Bracket x={8} fromY={scale.y(where.fromMm)} toY={scale.y(where.toMm)} isDashed={Boolean(edit.off)} />
      )}
      {where?.kind !== "point" &&
        places.map(([first, last], i) => {
          const top = scale.y(layers[Math.min(last, layers.length - 1)].zMm);
          const bottom = scale.y(layers[Math.min(first, layers.length - 1)].zMm);
          return (
            <rect
              key={i}
              x={middle - TICK_PX / 2 + 4}
              y={top - 1}
              width={TICK_PX - 4}
              height={Math.max(2, bottom - top + 2)}
              fill={ink}
              opacity={first === last ? 1 : 0.55}
            />
          );
        })}
      {where?.kind === "point" && <Diamond x={middle} y={scale.y(where.mm)} isDashed={Boolean(edit.off)} ink={ink} />}
    </svg>
  );
}

function Bracket({ x, fromY, toY, isDashed }: { x: number; fromY: number; toY: number; isDashed: boolean }) {
  const stroke = { stroke: "var(--primary)", strokeWidth: 2.4, strokeDasharray: isDashed ? "3 4" : undefined };
  return (
    <g fill="none" {...stroke}>
      <path d={`M${x} ${fromY}V${toY}`} />
      <path d={`M${x - 5} ${fromY}h10M${x - 5} ${toY}h10`} strokeWidth={1.6} />
    </g>
  );
}

function Diamond({ x, y, isDashed, ink }: { x: number; y: number; isDashed: boolean; ink: string }) {
  return (
    <path
      d={`M${x} ${y - 8}l8 8l-8 8l-8 -8Z`}
      fill={isDashed ? "none" : ink}
      stroke={ink}
      strokeWidth={1.6}
      strokeDasharray={isDashed ? "2 2" : undefined}
    />
  );
}

/** The rings of the chosen edit: others are chosen first. */
function Handles({ board, index, edit, widthPx, frame }: ColumnProps) {
  const where = onLog(edit, board.layers);
  if (!where || board.chosen !== index) return null;
  const move = (end: LogEnd) => (mm: number, gesture: string) => board.onDrag(index, end, mm, gesture);
  const handle = (end: LogEnd, mm: number, what: string, left: number) => (
    <EdgeHandle
      key={end}
      label={`${what}, at ${plainNumber(mm, 1)} mm.`}
      mm={mm}
      scale={frame.scale}
      left={frame.leftPx + left}
      onMove={move(end)}
    />
  );
  if (where.kind === "point") return handle("at", where.mm, "Where the print stops", (widthPx - GAP_PX) / 2);
  return (
    <>
      {handle("from", where.fromMm, "Where the edit begins", 8)}
      {handle("to", where.toMm, "Where the edit ends", 8)}
    </>
  );
}
