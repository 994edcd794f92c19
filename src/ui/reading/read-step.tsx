"use client";
/** Reading a printed piece: its bands on the log with their marks and what they say together, and the questions about one band. */
import { KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import type { CriterionKey } from "@/core/reading";
import { HIGHEST_MARK, Mark } from "@/core/reading/criterion";
import { Choice } from "../common/choice";
import { useRoom } from "../common/use-room";
import type { LogBand, LogColumn } from "../heightlog/column";
import { millimetresColumn } from "../heightlog/columns/millimetres";
import { valuesColumn } from "../heightlog/columns/values";
import { HeightLog } from "../heightlog/height-log";
import { isInDialog, isTyping } from "../frame/use-global-keys";
import { logBands } from "../trials/log-bands";
import { settingFor } from "@/core/settings";
import { plainNumber } from "@/core/units";
import { marksColumn } from "./marks-column";
import { Questions } from "./questions";
import styles from "./reading.module.css";
import { isBeside, SentRun } from "./run-data";
import { scoresColumn } from "./scores-column";
import { useReading, useVerdict, useWeights } from "./use-runs";
import { VerdictCard, WhatCounts } from "./verdict-card";

interface Props {
  trialId: number;
  runs: SentRun[];
  runId: number | null;
  onRun(id: number): void;
  front: LogColumn;
  onKeep(): void;
}

const AROUND_PX = 460;

export function ReadStep({ trialId, runs, runId, onRun, front, onKeep }: Props) {
  const run = runs.find(({ id }) => id === runId) ?? runs[0];
  const reading = useReading(trialId, run);
  const { weights, setWeight } = useWeights();
  const verdict = useVerdict(run, weights);
  const [chosenBand, setBand] = useState<number | null>(null);
  const readable = run.bands.filter(({ counts }) => counts);
  const band = run.bands.find(({ band: number }) => number === chosenBand) ?? readable[0] ?? run.bands[0];
  const [criterion, setCriterion] = useState<CriterionKey>(run.criteria[0].key);
  const at = run.bands.indexOf(band);
  // Where every place is asked for another width, lengths alone tell.
  const marksCount = run.bands.every(({ wantedMm }) => wantedMm === undefined);
  const step = (by: number) => setBand(run.bands[Math.min(run.bands.length - 1, Math.max(0, at + by))].band);
  const mark = (mark: Mark | null) => void reading.mark(band.band, criterion, mark);
  useReadingKeys({ step, mark });
  const pieceLog = usePieceLog(run);
  const roomPx = useRoom(AROUND_PX);
  const setting = settingFor(run.setting);
  const columns = useMemo(
    (): LogColumn[] => [
      millimetresColumn(),
      front,
      marksColumn({
        criteria: run.criteria,
        chosen: criterion,
        chosenBand: band.band,
        markOf: reading.markOf,
        onChoose: (number, key) => {
          setBand(number);
          setCriterion(key);
        },
      }),
      scoresColumn(verdict),
      valuesColumn({
        title: setting.unit,
        widthPx: 96,
        values: {
          unit: setting.unit,
          low: setting.lowest,
          high: setting.highest,
          step: setting.step,
          decimals: setting.decimals,
          of: ({ number }) => run.bands[number - 1]?.value ?? null,
        },
      }),
    ],
    [front, run, criterion, band.band, reading.markOf, verdict, setting],
  );
  const cursorLayer = pieceLog?.bands[at]
    ? Math.floor((pieceLog.bands[at].firstLayer + pieceLog.bands[at].lastLayer) / 2)
    : 0;
  return (
    <div className={`two-sides ${styles.sides}`}>
      <div>
        {runs.length > 1 && (
          <div className="line above">
            <Choice
              label="Piece"
              className="picker"
              value={run.id}
              options={runs.map(({ id, printedAt }) => ({
                value: id,
                label: `Printed ${printedAt.slice(0, 16).replace("T", ", ")}`,
              }))}
              onChange={onRun}
            />
          </div>
        )}
        {pieceLog ? (
          <div className={styles.log}>
            <HeightLog
              label="Reading of the piece"
              columns={columns}
              bands={pieceLog.bands}
              tops={pieceLog.tops}
              topMm={pieceLog.topMm}
              cursorLayer={cursorLayer}
              onCursor={(layer) => {
                const found = pieceLog.bands.find(
                  ({ firstLayer, lastLayer }) => layer >= firstLayer && layer <= lastLayer,
                );
                if (found) setBand(found.number);
              }}
              roomPx={roomPx}
              keys={<ReadingKeys />}
            />
          </div>
        ) : (
          <UnitList run={run} chosen={band.band} scores={verdict?.bands ?? []} onChoose={setBand} />
        )}
        <div className={styles.outcome}>
          {marksCount && <WhatCounts rule={verdict?.rule ?? "best"} weights={weights} onWeight={setWeight} />}
          {verdict && <VerdictCard trialId={trialId} run={run} verdict={verdict} weights={weights} onKeep={onKeep} />}
        </div>
      </div>
      <div className="side">
        <Questions
          run={run}
          band={band}
          reading={reading}
          criterion={criterion}
          onCriterion={setCriterion}
          onStep={step}
        />
      </div>
    </div>
  );
}

function ReadingKeys() {
  return (
    <>
      <span>
        <kbd>↑</kbd> <kbd>↓</kbd> band
      </span>
      <span>
        <kbd>1</kbd>–<kbd>5</kbd> mark
      </span>
      <span>
        <kbd>0</kbd> cannot tell
      </span>
      <span>
        <kbd>Tab</kbd> next question
      </span>
    </>
  );
}

/** The bands of a piece on the log; null where its values stand side by side. */
function usePieceLog(run: SentRun): { bands: LogBand[]; tops: Float64Array; topMm: number } | null {
  return useMemo(() => {
    if (isBeside(run)) return null;
    return logBands(run.trial, run.setting, ({ index }) => run.bands[index]?.why || undefined);
  }, [run]);
}

/** Values that stand side by side: nothing of them is told by their height. */
function UnitList(props: {
  run: SentRun;
  chosen: number;
  scores: { band: number; score: number | null }[];
  onChoose(band: number): void;
}) {
  const { run, chosen, scores, onChoose } = props;
  return (
    <ul className={`rows ${styles.units}`} aria-label="Values on the piece">
      {run.bands.map(({ band, label, why }) => {
        const score = scores.find((one) => one.band === band)?.score;
        return (
          <li key={band}>
            <button aria-pressed={band === chosen} onClick={() => onChoose(band)}>
              <span className="mono">{label}</span>
              <span className={styles.meter} aria-hidden>
                <span style={{ width: `${((score ?? 0) / HIGHEST_MARK) * 100}%` }} />
              </span>
              <span className="dim">
                {why ||
                  sayLengths(run, band) ||
                  (score == null ? "not marked" : `${score.toFixed(1)} of ${HIGHEST_MARK}`)}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** `measured 0.42 mm`, the mean of all readers; empty where nothing was. */
function sayLengths({ readings }: SentRun, band: number): string {
  const all = readings.flatMap(({ measures }) =>
    measures.filter((one) => one.band === band).flatMap((one) => one.valuesMm),
  );
  if (all.length === 0) return "";
  return `measured ${plainNumber(all.reduce((sum, mm) => sum + mm, 0) / all.length, 3)} mm`;
}

/** Arrow keys go from band to band, 1 to 5 mark, 0 is “cannot tell”; wherever nobody is typing. */
function useReadingKeys(acts: { step(by: number): void; mark(mark: Mark | null): void }): void {
  const now = useRef(acts);
  useEffect(() => {
    now.current = acts;
  });
  useEffect(() => {
    const press = (event: globalThis.KeyboardEvent | KeyboardEvent) => {
      const { target } = event as globalThis.KeyboardEvent;
      if (isTyping(target) || isInDialog(target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const isOnSelect = target instanceof HTMLSelectElement || target instanceof HTMLInputElement;
      if (/^[1-5]$/.test(event.key)) now.current.mark((Number(event.key) - 1) as Mark);
      else if (event.key === "0") now.current.mark(null);
      else if (!isOnSelect && event.key === "ArrowUp") now.current.step(1);
      else if (!isOnSelect && event.key === "ArrowDown") now.current.step(-1);
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    // Before the log's own keys, which go from layer to layer.
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, []);
}
