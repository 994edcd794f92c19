"use client";
/** What stands beside a trial: the print in figures, what to do with it, the checks, the kind's choices, and what is kept. */
import { Button } from "antd";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { Loading } from "../common/loading";
import { KeepCard } from "./keep-card";
import { OptionFields } from "./option-fields";
import type { TrialPageState } from "./use-trial-page";
import { Problem } from "../common/problem";

export function TrialSide({ page }: { page: TrialPageState }) {
  const { trial, printer, kind, view, missing, key, toKeep, choose } = page;
  return (
    <div className="side">
      <PrintCard page={page} />
      <Acts page={page} />
      <CheckCard page={page} />
      {printer && kind.options.length > 0 && (
        <section className="card" aria-label="Choices">
          <h2>Choices</h2>
          <OptionFields options={kind.options} values={trial.options} printer={printer} onChange={choose} />
        </section>
      )}
      <section className="card" aria-label="On the piece">
        <h2>On the piece</h2>
        <p className="dim">{view?.legend}</p>
      </section>
      {!missing && <KeepCard trial={trial} shown={key} sideBySide={trial.plan.sideBySide ?? null} band={toKeep} />}
    </div>
  );
}

function PrintCard({ page: { view, spool, tops, topMm } }: { page: TrialPageState }) {
  return (
    <section className="card" aria-label="This print">
      <h2>This print</h2>
      <Facts
        rows={[
          ["Time", view ? sayDuration(view.seconds) : "…"],
          ["Filament", view ? `${roundTo(view.filamentMm / 1000, 2).toFixed(2)} m` : "…"],
          ["Mass", view ? `${roundTo(view.massG, 1).toFixed(1)} g` : "…"],
          view?.cost == null ? null : ["Cost", `${view.cost.toFixed(2)} ${spool?.currency ?? ""}`],
          ["Layers", String(tops.length)],
          ["Height", `${plainNumber(topMm, 1)} mm`],
        ]}
      />
    </section>
  );
}

function Acts({ page: { stop, isHeld, printer, download, send, toOwnFile } }: { page: TrialPageState }) {
  return (
    <>
      <Button
        className="go"
        size="large"
        block
        aria-keyshortcuts="D"
        onClick={download}
        disabled={isHeld}
        title={stop?.message ?? "D"}
      >
        Get the file
      </Button>
      {printer && (
        <Button block disabled={isHeld} onClick={send}>
          Send it to {printer.name}
        </Button>
      )}
      <Button block onClick={toOwnFile}>
        Put this plan on my own file
      </Button>
    </>
  );
}

function CheckCard({ page: { view, missing, problem, mend } }: { page: TrialPageState }) {
  return (
    <section className="card" aria-label="Checks">
      <h2>Checks</h2>
      <Problem>{problem}</Problem>
      {view && !missing && <Findings findings={view.findings} passed={view.passed} onMend={mend} />}
      {!view && !problem && <Loading />}
    </section>
  );
}
