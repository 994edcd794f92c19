"use client";
/** A piece that is a field of two settings, cell by cell: pressed one by one, or painted by dragging from a cell that is marked. */
import { CSSProperties, useRef } from "react";
import type { CriterionKey } from "@/core/reading";
import { HIGHEST_MARK, Mark } from "@/core/reading/criterion";
import { sayChance } from "@/core/reading/say";
import type { Verdict } from "@/core/reading/verdict";
import { settingFor } from "@/core/settings";
import type { Unit } from "@/core/trials/run";
import { primaryKey } from "@/core/trials/shown";
import { plainNumber } from "@/core/units";
import styles from "./matrix-grid.module.css";
import type { SentRun } from "./run-data";

interface Props {
  run: SentRun;
  chosen: Unit;
  criterion: CriterionKey;
  verdict: Verdict | null;
  markOf(band: number, criterion: CriterionKey): Mark | null | undefined;
  onChoose(band: number): void;
  onPaint(bands: number[], mark: Mark | null): void;
}

export function MatrixGrid({ run, chosen, criterion, verdict, markOf, onChoose, onPaint }: Props) {
  const across = settingFor(run.setting);
  const along = settingFor(primaryKey(run.trial, run.printer));
  const rows = rowsOf(run.bands).reverse();
  const goodSaid = verdict?.rule === "surface" ? "about as good as the best" : "good";
  const { answers, short } = run.criteria.find(({ key }) => key === criterion)!;
  /** The mark that is being painted, and the cells it has reached. */
  const painting = useRef<{ mark: Mark | null; bands: Set<number> } | null>(null);
  const begin = (unit: Unit) => {
    onChoose(unit.band);
    const mark = markOf(unit.band, criterion);
    painting.current = mark === undefined ? null : { mark, bands: new Set() };
  };
  const reach = (unit: Unit, pressed: boolean) => {
    if (pressed && painting.current && unit.counts) painting.current.bands.add(unit.band);
  };
  const end = () => {
    const painted = painting.current;
    painting.current = null;
    if (painted && painted.bands.size > 1) onPaint([...painted.bands], painted.mark);
  };
  return (
    <div className={styles.frame} onPointerUp={end} onPointerLeave={end}>
      <table className={styles.grid}>
        <caption className="dim">
          {short} of every {across.label.toLowerCase()} at every {along.label.toLowerCase()}, as on the piece. Mark a
          cell, then drag from it over others that are alike. The bar at a cell’s foot: how likely it is {goodSaid}.
        </caption>
        <tbody>
          {rows.map((row) => (
            <tr key={row[0].band}>
              <th scope="row" className="mono">
                {plainNumber(row[0].along ?? 0, along.decimals)}
              </th>
              {row.map((unit) => (
                <Cell
                  key={unit.band}
                  unit={unit}
                  isChosen={unit === chosen}
                  isFound={isFound(unit, row, rows, verdict)}
                  good={goodOf(unit, verdict)}
                  goodSaid={goodSaid}
                  mark={markOf(unit.band, criterion)}
                  answers={answers}
                  onBegin={() => begin(unit)}
                  onReach={(pressed) => reach(unit, pressed)}
                />
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{along.unit}</th>
            {rows[0].map(({ value, band }) => (
              <th key={band} scope="col" className="mono">
                {plainNumber(value, across.decimals)}
              </th>
            ))}
            <td className="dim">{across.unit}</td>
          </tr>
        </tfoot>
      </table>
    </div>
  );
}

interface CellProps {
  unit: Unit;
  isChosen: boolean;
  isFound: boolean;
  /** The chance that it is good enough; null where nothing is believed. */
  good: number | null;
  /** What that chance is a chance of. */
  goodSaid: string;
  mark: Mark | null | undefined;
  answers: string[];
  onBegin(): void;
  onReach(pressed: boolean): void;
}

function Cell({ unit, isChosen, isFound, good, goodSaid, mark, answers, onBegin, onReach }: CellProps) {
  const said =
    unit.why || (mark === undefined ? "not marked" : mark === null ? "? cannot tell" : `${mark + 1}, ${answers[mark]}`);
  const believed = good === null ? "" : `; ${sayChance(good).toLowerCase()} that it is ${goodSaid}`;
  return (
    <td
      className={styles.believed}
      style={good === null ? undefined : ({ "--good": `${Math.round(good * 100)}%` } as CSSProperties)}
    >
      <button
        className={styles.cell}
        data-mark={mark === undefined ? undefined : (mark ?? "none")}
        data-found={isFound || undefined}
        aria-pressed={isChosen}
        aria-label={`${unit.label}: ${said}${believed}`}
        title={`${said}${believed}`}
        style={mark == null ? undefined : ({ "--share": `${(mark / HIGHEST_MARK) * 100}%` } as CSSProperties)}
        onPointerDown={(event) => {
          // Without this, what the finger or mouse passes over would hear nothing of it.
          event.currentTarget.releasePointerCapture(event.pointerId);
          onBegin();
          onReach(true);
        }}
        onPointerEnter={(event) => onReach(event.buttons === 1)}
        onClick={onBegin}
      >
        {mark === undefined ? "" : mark === null ? "?" : mark + 1}
      </button>
    </td>
  );
}

function rowsOf(units: readonly Unit[]): Unit[][] {
  const rows: Unit[][] = [];
  for (const unit of units) {
    if (unit.column === 0) rows.push([]);
    rows.at(-1)!.push(unit);
  }
  return rows;
}

const goodOf = ({ band }: Unit, verdict: Verdict | null) =>
  verdict?.bands.find((one) => one.band === band)?.good ?? null;

/** The cell nearest to what the verdict found. */
function isFound(unit: Unit, row: readonly Unit[], rows: readonly Unit[][], verdict: Verdict | null): boolean {
  if (!verdict || verdict.value === null || !verdict.along || verdict.advice === "mark-more") return false;
  const { value, along } = verdict;
  const nearest = (values: readonly number[], to: number) =>
    values.reduce((best, one) => (Math.abs(one - to) < Math.abs(best - to) ? one : best));
  return (
    unit.value ===
      nearest(
        row.map((one) => one.value),
        value,
      ) &&
    unit.along ===
      nearest(
        rows.map(([one]) => one.along ?? 0),
        along.value,
      )
  );
}
