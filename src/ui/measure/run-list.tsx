"use client";
/** The readings so far, what they say together, and what they come to. */
import { tuneFor, TuneKey } from "@/core/measure";
import { judgeRuns } from "@/core/measure/runs";
import { plainNumber } from "@/core/units";
import type { SavedPrinter, SavedSpool } from "../common/api";
import { NewValue } from "./new-value";
import type { Run } from "./use-guide";

interface Props {
  tuneKey: TuneKey;
  printer: SavedPrinter;
  spool: SavedSpool | null;
  runs: Run[];
  live: boolean;
  /** Firmware values as they are known to be. */
  inForce: Record<string, number>;
  onRuns(runs: Run[]): void;
}

export function RunList(props: Props) {
  const { tuneKey, runs, onRuns } = props;
  // Readings with the same values in force belong together.
  const since = runs.findLastIndex(({ triedAs }) => triedAs !== undefined) + 1;
  const recent = runs.slice(since).map(({ outcome }) => outcome);
  const said = judgeRuns(tuneFor(tuneKey), recent);
  const outcome = runs.at(-1)?.outcome;
  if (!outcome) {
    return (
      <section className="card" aria-label="Readings">
        <h2>Readings</h2>
        <p className="dim">None yet. Each reading shows its sum; nothing is changed before you say so.</p>
      </section>
    );
  }
  const wasTried = runs.at(-1)?.triedAs !== undefined;
  return (
    <>
      <section className="card" aria-label="Readings">
        <h2>Readings</h2>
        <ol className="history">
          {runs.map(({ outcome: one, triedAs: was }, i) => (
            <li key={i}>
              <span className="mono">
                {plainNumber(one.measured, 2)} {one.unit}
              </span>
              {one.within ? ", good" : ""}
              {was && <span className="dim"> · new value tried</span>}{" "}
              {i === runs.length - 1 && !was && (
                <button className="link-button" onClick={() => onRuns(runs.slice(0, -1))}>
                  Drop it
                </button>
              )}
            </li>
          ))}
        </ol>
        {said && (
          <div className={`finding ${said.disagree ? "stop" : said.done ? "ok" : "note"}`} role="status">
            {said.advice}
          </div>
        )}
        {wasTried && <div className="finding note">The new value is set. Run it again to confirm.</div>}
      </section>
      <NewValue {...props} outcome={outcome} recent={recent} said={said} />
    </>
  );
}
