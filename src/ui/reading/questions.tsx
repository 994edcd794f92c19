"use client";
/** What is asked of one band: every criterion a stop of the Tab key, answered by a digit or a press; and what a calliper says. */
import { MARKS, Mark } from "@/core/reading/criterion";
import type { CriterionKey } from "@/core/reading";
import { Button } from "antd";
import { useAct } from "../common/use-act";
import { sayAllKept, useKeep } from "../trials/use-keep";
import { Lengths } from "./lengths";
import styles from "./reading.module.css";
import { isBeside, Unit } from "@/core/trials/run";
import type { SentCriterion, SentRun } from "./run-data";
import type { useReading } from "./use-runs";

type Reading = ReturnType<typeof useReading>;

interface Props {
  run: SentRun;
  band: Unit;
  reading: Reading;
  criterion: CriterionKey;
  onCriterion(key: CriterionKey): void;
  onStep(by: number): void;
}

export function Questions({ run, band, reading, criterion, onCriterion, onStep }: Props) {
  const at = run.bands.indexOf(band);
  return (
    <section className={`card ${styles.questions}`} aria-label="Questions about the band">
      <div className={styles.stepper}>
        <button className={styles.stepBand} onClick={() => onStep(-1)} disabled={at <= 0} aria-label="The band below">
          ↓
        </button>
        <h2 aria-live="polite">
          {isBeside(run) ? "Place" : "Band"} {band.band}, {band.label}
        </h2>
        <button
          className={styles.stepBand}
          onClick={() => onStep(1)}
          disabled={at >= run.bands.length - 1}
          aria-label="The band above"
        >
          ↑
        </button>
      </div>
      {band.counts && <KeepBand run={run} band={band} />}
      {band.why && <p className="finding">{band.why} It does not count.</p>}
      {run.criteria.map((one) => (
        <Question
          key={one.key}
          criterion={one}
          isOpen={one.key === criterion}
          mark={reading.markOf(band.band, one.key)}
          onOpen={() => onCriterion(one.key)}
          onMark={(mark) => void reading.mark(band.band, one.key, mark)}
        />
      ))}
      {run.measure && <Lengths run={run} band={band} measure={run.measure} reading={reading} />}
      {run.isSimulated && <ReadForMe onRead={reading.readForMe} />}
    </section>
  );
}

/** Who has seen enough keeps what the band was printed with, in one press. */
function KeepBand({ run, band }: { run: SentRun; band: Unit }) {
  const { trialId, trial, id: runId } = run;
  const { keepBand } = useKeep({ id: trialId, printerId: trial.printerId, spoolId: trial.spoolId });
  const settings = Object.keys(band.settings).length > 0 ? band.settings : { [run.setting]: band.value };
  if (band.wantedMm !== undefined) return null;
  return (
    <button className={`link-button ${styles.keepBand}`} onClick={() => void keepBand(settings, runId)}>
      Keep {sayAllKept(settings)}
    </button>
  );
}

/** Only for what a simulated printer made. */
function ReadForMe({ onRead }: { onRead(): Promise<void> }) {
  const { busy, act } = useAct();
  return (
    <div className={styles.forMe}>
      <Button loading={busy} onClick={() => void act(onRead)}>
        Read it for me
      </Button>
      <p className="dim">This piece is simulated. An eye with its usual noise marks what has no mark yet.</p>
    </div>
  );
}

interface QuestionProps {
  criterion: SentCriterion;
  isOpen: boolean;
  mark: ReturnType<Reading["markOf"]>;
  onOpen(): void;
  onMark(mark: Mark | null): void;
}

function Question({ criterion, isOpen, mark, onOpen, onMark }: QuestionProps) {
  const { question, answers, short } = criterion;
  const said = mark === undefined ? "not marked" : mark === null ? "cannot tell" : answers[mark];
  return (
    <div className={styles.question} data-open={isOpen || undefined}>
      <button className={styles.asked} aria-expanded={isOpen} onFocus={onOpen} onClick={onOpen}>
        {isOpen ? question : short}
        {!isOpen && <span className="dim"> {said}</span>}
      </button>
      {isOpen && (
        <div role="radiogroup" aria-label={question} className={styles.answers}>
          {MARKS.map((one) => (
            <button
              key={one}
              role="radio"
              aria-checked={mark === one}
              tabIndex={-1}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => onMark(one)}
            >
              <span className="mono">{one + 1}</span> {answers[one]}
            </button>
          ))}
          <button
            role="radio"
            aria-checked={mark === null}
            tabIndex={-1}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onMark(null)}
          >
            <span className="mono">0</span> cannot tell
          </button>
        </div>
      )}
    </div>
  );
}
