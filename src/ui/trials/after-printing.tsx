"use client";
/** The steps behind printing: the pieces, reading one of them, keeping what it shows. */
import { Button } from "antd";
import { useMemo } from "react";
import { Loading } from "../common/loading";
import { emptyColumn } from "../heightlog/columns/layers";
import { frontColumn } from "../heightlog/columns/front";
import { KeepStep, ReadStep, RunStep } from "./steps-later";
import type { Step, TrialPageState } from "./use-trial-page";

const FRONT_PX = 216;

export function AfterPrinting({ page, step }: { page: TrialPageState; step: Exclude<Step, "plan" | "check"> }) {
  const { trial, view, runs, runId, setRunId, setStep, specimen, missing, stop, isHeld, printer, send, flush } = page;
  const run = runs?.find(({ id }) => id === runId) ?? runs?.[0];
  // The drawing is of the trial as it stands: it is shown only where the piece was printed so.
  const isAsPrinted = JSON.stringify(run?.trial.plan) === JSON.stringify(trial.plan);
  const front = useMemo(() => {
    const title = isAsPrinted ? `${specimen}, from the front` : "The plan is another by now";
    return view && isAsPrinted
      ? frontColumn({ title, widthPx: FRONT_PX, front: view.front, widthMm: view.widthMm })
      : emptyColumn(FRONT_PX, title);
  }, [view, specimen, isAsPrinted]);
  if (!runs) return <Loading rows={8} />;
  if (step === "run") {
    const held = missing ?? stop?.message ?? (isHeld ? "It is still being built." : null);
    return (
      <RunStep
        trialId={trial.id}
        runs={runs}
        held={held}
        printerName={printer?.name ?? null}
        onSend={send}
        flush={flush}
        onRead={(id) => {
          setRunId(id);
          setStep("read");
        }}
      />
    );
  }
  if (!run) return <NothingYet onRun={() => setStep("run")} />;
  if (step === "keep") return <KeepStep trial={trial} run={run} onRead={() => setStep("read")} />;
  return (
    <ReadStep
      trialId={trial.id}
      runs={runs}
      runId={run.id}
      onRun={setRunId}
      front={front}
      widthMm={view?.widthMm ?? 0}
      onKeep={() => setStep("keep")}
    />
  );
}

function NothingYet({ onRun }: { onRun(): void }) {
  return (
    <div className="empty">
      <p>This trial hasn't been printed yet. Print it, mark its bands, then keep the result.</p>
      <Button className="go" onClick={onRun}>
        To the pieces
      </Button>
    </div>
  );
}
