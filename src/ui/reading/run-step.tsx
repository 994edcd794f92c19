"use client";
/** The pieces that were printed of a trial: one press says “I printed it”, a job over the link says it by itself. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useRemoveWithUndo } from "../common/queries";
import { TextField } from "../common/text-field";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import { When } from "../common/when";
import type { SentRun } from "./run-data";
import { RunLog } from "./run-log";
import styles from "./reading.module.css";

interface Props {
  trialId: number;
  runs: SentRun[];
  /** Why nothing can be printed now; null if it can. */
  held: string | null;
  printerName: string | null;
  onSend(): void;
  onRead(runId: number): void;
  flush(): Promise<void>;
}

export function RunStep({ trialId, runs, held, printerName, onSend, onRead, flush }: Props) {
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const remove = useRemoveWithUndo("/runs", "runs");
  const [logOf, setLogOf] = useState<number | null>(null);
  const [note, setNote] = useState("");
  const printed = () =>
    act(async () => {
      await flush();
      await api.post<SentRun>(`/trials/${trialId}/runs`, note.trim() === "" ? {} : { note: note.trim() });
      setNote("");
      await client.invalidateQueries({ queryKey: keys.runs(trialId) });
      tell.done("It stands here now with the plan it was printed with.");
    });
  return (
    <div className={styles.runs}>
      <section className="card" aria-label="Print it">
        <h2>{runs.length === 0 ? "Print it first" : "Print it once more"}</h2>
        <p className="dim">
          {held ??
            "Prints sent over the link appear here automatically. If you printed from a card, add the print here when it's done."}
        </p>
        <label className={styles.note}>
          Note
          <TextField
            value={note}
            maxLength={2000}
            onChange={setNote}
            placeholder="What is worth knowing of this piece"
          />
        </label>
        <div className="line above">
          <Button
            className={runs.length === 0 ? "go" : undefined}
            loading={busy}
            disabled={held !== null}
            onClick={() => void printed()}
          >
            I printed it
          </Button>
          {printerName && (
            <Button disabled={held !== null} onClick={onSend}>
              Send it to {printerName}
            </Button>
          )}
        </div>
      </section>
      {runs.length > 0 && (
        <ul className="rows" aria-label="Pieces of this trial">
          {runs.map((run) => (
            <li key={run.id} className={`list-row ${styles.run}`}>
              <div>
                <h3>
                  Printed <When at={run.printedAt} /> on {run.printer.name}
                </h3>
                <p className="dim">
                  {sayHow(run)} {sayTold(run)} {sayByHand(run)}
                </p>
                {run.note && <p>{run.note}</p>}
                <p className={`dim mono ${styles.hash}`} title="SHA-256 of the exact program">
                  {run.hash.slice(0, 12)}
                </p>
              </div>
              <div className="line">
                {run.samples.length > 0 && (
                  <Button aria-expanded={logOf === run.id} onClick={() => setLogOf(logOf === run.id ? null : run.id)}>
                    Its log
                  </Button>
                )}
                <Button className={run === runs[0] ? "go" : undefined} onClick={() => onRead(run.id)}>
                  {run.readings.length > 0 ? "Read on" : "Read it"}
                </Button>
                <Button onClick={() => void remove(run.id, "the piece")} aria-label="Remove this piece">
                  Remove
                </Button>
              </div>
              {logOf === run.id && <RunLog run={run} />}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function sayHow({ way, reachedMm, bands }: SentRun): string {
  const from = way === "link" ? "Sent over the link." : "From a card.";
  if (reachedMm === null) return `${from} Whole, ${bands.length} to read.`;
  const left = bands.filter(({ counts }) => counts).length;
  return `${from} Stopped at ${plainNumber(reachedMm, 1)} mm: ${left} of ${bands.length} can be read.`;
}

function sayTold({ told }: SentRun): string {
  const measured = told.filter(({ meanC }) => meanC !== null);
  const shares = told.map(({ settledShare }) => Math.round(settledShare * 100));
  if (shares.length === 0) return "";
  const [low, high] = [Math.min(...shares), Math.max(...shares)];
  const range = low === high ? `${low} %` : `${low} to ${high} %`;
  return `Nozzle settled in ${range} of each band, ${measured.length > 0 ? "as measured" : "as expected"}.`;
}

function sayByHand({ byHand }: SentRun): string {
  if (byHand.length === 0) return "";
  return `${byHand.length === 1 ? "One change" : `${byHand.length} changes`} by hand.`;
}
