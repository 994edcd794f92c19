"use client";
/** The marks of every band beside the piece: five bars a criterion, filled as far as it is good. */
import type { CriterionKey } from "@/core/reading";
import { HIGHEST_MARK, Mark } from "@/core/reading/criterion";
import type { LogColumn, LogFrame } from "../heightlog/column";
import styles from "./reading.module.css";
import type { SentCriterion } from "./run-data";

interface Marks {
  criteria: SentCriterion[];
  chosen: CriterionKey | null;
  /** The band that is asked about. */
  chosenBand: number;
  markOf(band: number, criterion: CriterionKey): Mark | null | undefined;
  onChoose(band: number, criterion: CriterionKey): void;
}

const CELL_PX = 66;
const BAR_PX = 7;
const TALLEST_PX = 24;

export function marksColumn(marks: Marks): LogColumn {
  return {
    title: "Marks, the fuller the better",
    widthPx: marks.criteria.length * CELL_PX + 16,
    head: () => (
      <span className={styles.heads} aria-hidden>
        {marks.criteria.map(({ key, short }) => (
          <span key={key} style={{ width: CELL_PX }}>
            {short}
          </span>
        ))}
      </span>
    ),
    over: (frame) => <Cells {...marks} {...frame} />,
  };
}

function Cells({ criteria, chosen, chosenBand, markOf, onChoose, bands, scale, leftPx }: Marks & LogFrame) {
  const row = bands.find(({ number }) => number === chosenBand);
  return (
    <>
      {row && (
        <span
          className={styles.row}
          style={{
            left: leftPx - 8,
            top: scale.y(row.toMm) + 1,
            width: criteria.length * CELL_PX + 8,
            height: scale.y(row.fromMm) - scale.y(row.toMm) - 2,
          }}
          aria-hidden
        />
      )}
      {bands.map((band) => {
        const middle = (scale.y(band.fromMm) + scale.y(band.toMm)) / 2;
        const room = scale.y(band.fromMm) - scale.y(band.toMm);
        const height = Math.min(TALLEST_PX, Math.max(4, room - 6));
        return criteria.map(({ key, short, answers }, i) => {
          const mark = markOf(band.number, key);
          const said = mark === undefined ? "not marked" : mark === null ? "cannot tell" : answers[mark];
          return (
            <button
              key={`${band.number} ${key}`}
              className={styles.cell}
              data-on={chosen === key || undefined}
              tabIndex={-1}
              aria-label={`Band ${band.number}, ${short}: ${said}`}
              title={said}
              style={{ left: leftPx + i * CELL_PX, top: middle - height / 2, width: CELL_PX - 6, height }}
              onPointerDown={(event) => event.stopPropagation()}
              onClick={() => onChoose(band.number, key)}
            >
              {mark === null ? "?" : <Bars mark={mark} height={height} />}
            </button>
          );
        });
      })}
    </>
  );
}

function Bars({ mark, height }: { mark: Mark | undefined; height: number }) {
  return (
    <svg width={(BAR_PX + 2) * (HIGHEST_MARK + 1)} height={height} aria-hidden>
      {Array.from({ length: HIGHEST_MARK + 1 }, (_, i) => {
        const tall = (height * (i + 2)) / (HIGHEST_MARK + 2);
        return (
          <rect
            key={i}
            className={mark !== undefined && i <= mark ? styles.full : styles.empty}
            x={i * (BAR_PX + 2) + 0.5}
            y={height - tall + 0.5}
            width={BAR_PX - 1}
            height={Math.max(1, tall - 1)}
            rx={1.5}
          />
        );
      })}
    </svg>
  );
}
