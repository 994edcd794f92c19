"use client";
import { HIGHEST_MARK } from "@/core/reading/criterion";
import { plainNumber } from "@/core/units";
import styles from "./reading.module.css";
import type { SentRun } from "./run-data";

/** Values that stand side by side: nothing of them is told by their height. */
export function UnitList(props: {
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
