"use client";
/** The part of the trial's page that shows it: on the log, as a table, from above, in 3D, or as a program. */
import { variedKeys } from "@/core/heightplan/plan";
import { moveEdge } from "@/core/heightplan/reshape";
import { settingFor } from "@/core/settings";
import type { Spot } from "@/core/specimens/specimen";
import { leadOf, tellEarlier } from "@/core/trials/earlier";
import { useRoom } from "../common/use-room";
import { HeightLog } from "../heightlog/height-log";
import { AboveView, BandTable, HeatChart, PathView, ProgramView, SideBySideField } from "./opened-later";
import type { TrialPageState } from "./use-trial-page";

/** What stands above and below a view, and what the curves of the check take, px. */
const AROUND_PX = 268;
const TALLER_PX = 52;
const CURVES_PX = 184;

const NO_SPOTS: Spot[] = [];

export function TrialView({ page }: { page: TrialPageState }) {
  const { shown, view, client, moves, bands, tops, cursor, setCursor, pathLayer, setPathLayer } = page;
  const roomPx = useRoom(AROUND_PX);
  const heightPx = roomPx + TALLER_PX;
  switch (shown) {
    case "log":
      return <LogView page={page} roomPx={roomPx} />;
    case "bands":
      return <BandsView page={page} />;
    case "above":
      return (
        <AboveView
          moves={moves}
          layer={Math.min(cursor, tops.length - 1)}
          tops={tops}
          spots={view?.spots ?? NO_SPOTS}
          onLayer={setCursor}
          heightPx={heightPx}
        />
      );
    case "path":
      return (
        <PathView
          moves={moves}
          bands={bands}
          layer={pathLayer ?? tops.length - 1}
          tops={tops}
          onLayer={setPathLayer}
          heightPx={heightPx}
        />
      );
    case "program":
      return <ProgramView client={client} view={view} layer={cursor} heightPx={heightPx} />;
  }
}

function LogView({ page, roomPx }: { page: TrialPageState; roomPx: number }) {
  const { trial, edit, editPlan, view, step, columns, bands, tops, topMm, cursor, setCursor, setFilling } = page;
  const isChecking = step === "check";
  return (
    <>
      <HeightLog
        label="Height log of the trial"
        columns={columns}
        bands={bands}
        tops={tops}
        topMm={topMm}
        cursorLayer={cursor}
        onCursor={setCursor}
        onMoveEdge={
          isChecking ? undefined : (index, mm, gesture) => editPlan((plan) => moveEdge(plan, index, mm), gesture)
        }
        onFill={() => setFilling(true)}
        roomPx={roomPx - (isChecking ? CURVES_PX : 0)}
      />
      {isChecking && view && (
        <HeatChart view={view} leadLayers={leadOf(trial)} onLead={(layers) => edit(tellEarlier(trial, layers))} />
      )}
    </>
  );
}

function BandsView({ page }: { page: TrialPageState }) {
  const { trial, editPlan, printer, spool, resolved, bands, varied, cursorBand, setFilling, flush } = page;
  const { plan } = trial;
  return (
    <>
      <BandTable
        trialId={trial.id}
        plan={plan}
        bands={resolved}
        colours={bands.map(({ colour }) => colour)}
        varied={variedKeys(plan.bands).length === 0 ? [] : varied}
        fixed={trial.fixed}
        usualOf={(one) => (printer ? settingFor(one).usual(printer, spool) : settingFor(one).lowest)}
        cursorBand={cursorBand?.number}
        onChange={editPlan}
        onFill={() => setFilling(true)}
        flush={flush}
      />
      {plan.sideBySide && (
        <SideBySideField
          value={plan.sideBySide}
          onChange={(sideBySide) => editPlan((now) => ({ ...now, sideBySide }))}
        />
      )}
    </>
  );
}
