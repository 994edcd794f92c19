"use client";
/** One trial: its plan on the height log, what will come of it, and the file. */
import { Button, Segmented } from "antd";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { Mend } from "@/core/findings/finding";
import { moveEdge, setValue } from "@/core/heightplan/reshape";
import { bandOfLayer, resolveBands, variedKeys } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";
import type { Spot } from "@/core/specimens/specimen";
import { trialKindFor } from "@/core/trials";
import { leadOf, tellEarlier } from "@/core/trials/earlier";
import { firstRound } from "@/core/trials/first-round";
import { optionsOf } from "@/core/options/option";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { Loading } from "../common/loading";
import { api, ApiError, SavedPrinter, SavedSpool, StoredTrial } from "../common/api";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { useKept, usePrinters, useSpools, useTrial } from "../common/queries";
import { TabRow } from "../common/tab-row";
import { UndoRedo } from "../common/undo-redo";
import { useRoom } from "../common/use-room";
import { isTyping } from "../frame/use-global-keys";
import { HeightLog } from "../heightlog/height-log";
import {
  AboveView,
  BandTable,
  ClashDialog,
  FillDialog,
  HeatChart,
  PathView,
  ProgramView,
  SideBySideField,
} from "./opened-later";
import { useTrialMoves } from "./trial-moves";
import { sayFields, useTrialEditor, useTrialView } from "./editor";
import { KeepCard } from "./keep-card";
import { logBands } from "./log-bands";
import { trialColumns } from "./log-columns";
import { OptionFields } from "./option-fields";
import { TrialHead } from "./trial-head";
import { variedOf } from "@/core/trials/shown";
import { useTell } from "../common/talk";

export function TrialPage({ id }: { id: number }) {
  const trial = useTrial(id);
  const printers = usePrinters();
  const spools = useSpools();
  if (trial.error) {
    return (
      <div className="empty" role="alert">
        <h1>This trial is not here</h1>
        <p>{trial.error instanceof ApiError ? trial.error.message : "It could not be loaded."}</p>
        <Button href="/trials">All trials</Button>
      </div>
    );
  }
  if (!trial.data || !printers.data || !spools.data) return <Loading rows={12} />;
  return <LoadedTrial key={id} loaded={trial.data} printers={printers.data} spools={spools.data} />;
}

type View = "log" | "bands" | "above" | "path" | "program";
const views: { key: View; label: string }[] = [
  { key: "log", label: "Height log" },
  { key: "bands", label: "Bands" },
  { key: "above", label: "From above" },
  { key: "path", label: "3D path" },
  { key: "program", label: "Program" },
];
type Step = "plan" | "check";
const steps: { key: Step; label: string }[] = [
  { key: "plan", label: "Plan" },
  { key: "check", label: "Check" },
];

/** Lower pieces are looked at from above only. */
const FLAT_MM = 2;
const NO_SPOTS: Spot[] = [];

function LoadedTrial({
  loaded,
  printers,
  spools,
}: {
  loaded: StoredTrial;
  printers: SavedPrinter[];
  spools: SavedSpool[];
}) {
  const { trial, canUndo, canRedo, edit, editPlan, undo, redo, flush, problem, clash, settle } = useTrialEditor(loaded);
  const printer = printers.find(({ id }) => id === trial.printerId) ?? null;
  const spool = spools.find(({ id }) => id === trial.spoolId) ?? null;
  const { view, failure, client } = useTrialView(trial, printer, spool);
  const router = useRouter();
  const tell = useTell();
  const roomPx = useRoom(268);
  const [shown, setShown] = useState<View>("log");
  const [step, setStep] = useState<Step>("plan");
  const [cursor, setCursor] = useState(0);
  const [filling, setFilling] = useState(false);
  // The path is shown whole until a layer is chosen.
  const [pathLayer, setPathLayer] = useState<number | null>(null);

  const kind = trialKindFor(trial.kind);
  const varied = useMemo(() => variedOf(trial, printer), [trial, printer]);
  const [chosen, setChosen] = useState<SettingKey | null>(null);
  const key = chosen && varied.includes(chosen) ? chosen : varied[0];
  const specimen = kind.specimen(printer ? optionsOf(kind.options, trial.options, printer) : trial.options);
  const { bands, tops, topMm } = useMemo(() => {
    const settled = view?.bandSettled.length === trial.plan.bands.length ? view.bandSettled : undefined;
    return logBands(trial, key, ({ index, settings }) => {
      const note = printer ? kind.bandNote?.(settings, printer, trial.layerHeightMm) : null;
      if (note) return note;
      return settled && settings.nozzleTemperature !== undefined
        ? `settled for ${Math.round(settled[index] * 100)} %`
        : undefined;
    });
  }, [trial, key, view, kind, printer]);
  const resolved = useMemo(() => resolveBands(trial.plan, tops), [trial.plan, tops]);
  // A piece of a layer or two has nothing to show on a log.
  const flat = topMm < FLAT_MM;
  const viewShown: View = flat && shown === "log" ? "above" : shown;
  const moves = useTrialMoves(viewShown === "above" || viewShown === "path" ? client : null, view);

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z" || isTyping(event.target)) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [undo, redo]);

  const columns = useMemo(
    () =>
      trialColumns({
        view,
        step,
        specimen: specimen.label,
        plan: trial.plan,
        shown: key,
        varied,
        highestFlowMm3S: printer?.highestFlowMm3S ?? null,
        onValue: (band, value) => editPlan((plan) => setValue(plan, band.number - 1, key, value)),
      }),
    [view, step, specimen, key, varied, trial.plan, printer, editPlan],
  );

  const mend = ({ trial: change, open }: Mend) => {
    if (change) edit(change);
    if (open === "printer") router.push(`/shelf/printers/${trial.printerId}`);
    if (open === "spool") router.push(`/shelf/spools/${trial.spoolId}`);
  };
  const stops = view?.findings.filter(({ severity }) => severity === "stop") ?? [];
  const download = async () => {
    try {
      await flush();
      const link = document.createElement("a");
      link.href = `/api/trials/${trial.id}/gcode`;
      link.download = "";
      link.click();
    } catch (error) {
      tell.error(error);
    }
  };
  const keepCopy = async () => {
    try {
      const {
        kind: ofKind,
        name,
        printerId,
        spoolId,
        layerHeightMm,
        firstLayerHeightMm,
        plan,
        fixed,
        tool,
        options,
      } = trial;
      const fields = { printerId, spoolId, layerHeightMm, firstLayerHeightMm, plan, fixed, tool, options };
      await api.post("/trials", { ...fields, kind: ofKind, name: `${name} (mine)`.slice(0, 100) });
      settle("theirs");
      tell.done("Yours is kept as another trial.");
    } catch (error) {
      tell.error(error);
    }
  };
  const missing = !printer
    ? "The printer of this trial was removed: choose another one."
    : !spool
      ? "The spool of this trial was removed: choose another one."
      : null;
  const cursorBand = bandOfLayer(resolved, cursor);
  const bandValue = cursorBand?.settings[key];
  const kept = useKept(trial.printerId, trial.spoolId).data;
  const choose = (option: string, value: number | string | boolean, remakes: boolean) => {
    const options = { ...trial.options, [option]: value };
    if (!remakes || !printer || !spool) return edit({ options });
    const { layerHeightMm, firstLayerHeightMm } = trial;
    const keptValues = Object.fromEntries((kept ?? []).map((one) => [one.setting, one.value]));
    const request = { printer, spool, kept: keptValues, options, layerHeightMm, firstLayerHeightMm };
    const { plan, fixed } = firstRound(trial.kind, request);
    edit({ options, plan, fixed });
  };

  return (
    <>
      <TrialHead
        trial={trial}
        printers={printers}
        spools={spools}
        onEdit={edit}
        right={
          <TabRow<Step> label="Step" className="steps" tabs={steps} chosen={step} onChoose={(next) => setStep(next)} />
        }
      />
      <div className="two-sides">
        <div>
          <div style={{ display: "flex", justifyContent: "space-between", gap: 12, flexWrap: "wrap" }}>
            <TabRow<View>
              label="View"
              className="views"
              tabs={flat ? views.filter((one) => one.key !== "log") : views}
              chosen={viewShown}
              onChoose={(next) => setShown(next)}
            />
            {viewShown === "log" && varied.length > 1 && (
              <Segmented
                aria-label="Values shown"
                size="small"
                value={key}
                options={varied.map((one) => ({ value: one, label: settingFor(one).label }))}
                onChange={setChosen}
              />
            )}
            <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
          </div>
          {viewShown === "log" && (
            <HeightLog
              label="Height log of the trial"
              columns={columns}
              bands={bands}
              tops={tops}
              topMm={topMm}
              cursorLayer={cursor}
              onCursor={setCursor}
              onMoveEdge={
                step === "plan"
                  ? (index, mm, gesture) => editPlan((plan) => moveEdge(plan, index, mm), gesture)
                  : undefined
              }
              onFill={() => setFilling(true)}
              roomPx={roomPx - (step === "check" ? 184 : 0)}
            />
          )}
          {viewShown === "log" && step === "check" && view && (
            <HeatChart view={view} leadLayers={leadOf(trial)} onLead={(layers) => edit(tellEarlier(trial, layers))} />
          )}
          {viewShown === "bands" && (
            <BandTable
              trialId={trial.id}
              plan={trial.plan}
              bands={resolved}
              colours={bands.map(({ colour }) => colour)}
              varied={variedKeys(trial.plan.bands).length === 0 ? [] : varied}
              fixed={trial.fixed}
              usualOf={(one) => (printer ? settingFor(one).usual(printer, spool) : settingFor(one).lowest)}
              cursorBand={cursorBand?.number}
              onChange={editPlan}
              onFill={() => setFilling(true)}
              flush={flush}
            />
          )}
          {viewShown === "bands" && trial.plan.sideBySide && (
            <SideBySideField
              value={trial.plan.sideBySide}
              onChange={(sideBySide) => editPlan((plan) => ({ ...plan, sideBySide }))}
            />
          )}
          {viewShown === "above" && (
            <AboveView
              moves={moves}
              layer={Math.min(cursor, tops.length - 1)}
              tops={tops}
              spots={view?.spots ?? NO_SPOTS}
              onLayer={setCursor}
              heightPx={roomPx + 52}
            />
          )}
          {viewShown === "path" && (
            <PathView
              moves={moves}
              bands={bands}
              layer={pathLayer ?? tops.length - 1}
              tops={tops}
              onLayer={setPathLayer}
              heightPx={roomPx + 52}
            />
          )}
          {viewShown === "program" && <ProgramView client={client} view={view} layer={cursor} heightPx={roomPx + 52} />}
        </div>
        <div className="side">
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
          <section className="card" aria-label="Checks">
            <h2>Checks</h2>
            {(missing ?? failure ?? problem) && (
              <div className="finding stop" role="alert">
                {missing ?? failure ?? problem}
              </div>
            )}
            {view && !missing ? (
              <Findings findings={view.findings} passed={view.passed} onMend={mend} />
            ) : (
              !missing && !failure && <Loading />
            )}
          </section>
          <Button
            className="go"
            size="large"
            block
            onClick={() => void download()}
            disabled={!view || stops.length > 0 || missing !== null}
            title={stops[0]?.message}
          >
            Get the file
          </Button>
          {printer && (
            <Button
              block
              disabled={!view || stops.length > 0}
              onClick={() =>
                void flush().then(() => router.push(`/printer/${printer.id}?view=job&trial=${trial.id}`), tell.error)
              }
            >
              Send it to {printer.name}
            </Button>
          )}
          <Button block onClick={() => void flush().then(() => router.push(`/workshop?plan=${trial.id}`), tell.error)}>
            Put this plan on my own file
          </Button>
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
          {!missing && (
            <KeepCard
              trial={trial}
              shown={key}
              sideBySide={trial.plan.sideBySide ?? null}
              band={cursorBand && bandValue !== undefined ? { number: cursorBand.number, value: bandValue } : null}
            />
          )}
        </div>
      </div>
      {clash && (
        <ClashDialog
          what="trial"
          fields={sayFields(clash.fields)}
          onTheirs={() => settle("theirs")}
          onMine={() => settle("mine")}
          onCopy={() => void keepCopy()}
        />
      )}
      {filling && (
        <FillDialog
          plan={trial.plan}
          settingKey={key}
          layerHeightMm={trial.layerHeightMm}
          onClose={() => setFilling(false)}
          onTake={(plan) => edit({ plan })}
        />
      )}
    </>
  );
}
