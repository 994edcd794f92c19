"use client";
/** One trial: its plan on the height log, what will come of it, and the file. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { Mend } from "@/core/checks/finding";
import { moveEdge, setValue } from "@/core/heightplan/change";
import { bandOfLayer, resolveBands } from "@/core/heightplan/plan";
import { settingFor } from "@/core/settings";
import { trialKindFor } from "@/core/trials";
import type { Trial } from "@/core/trials/trial";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { Loading } from "../common/loading";
import { api, ApiError, SavedPrinter, SavedSpool } from "../common/api";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { usePrinters, useSpools, useTell } from "../common/queries";
import { TabRow } from "../common/tab-row";
import { UndoRedo } from "../common/undo-redo";
import { useRoom } from "../common/use-room";
import { isTyping } from "../frame/use-global-keys";
import type { LogColumn } from "../heightlog/columns";
import { HeightLog } from "../heightlog/height-log";
import { AboveView, useTrialMoves } from "./above-view";
import { BandTable, FillDialog } from "./band-table";
import { createEditor, EditorStore, useAutosave, useTrialView } from "./editor";
import { HeatChart } from "./heat-chart";
import { logBands } from "./log-bands";
import { PathView } from "./path-view";
import { ProgramView } from "./program-view";
import { TrialHead } from "./trial-head";

export function TrialPage({ id }: { id: number }) {
  const trial = useQuery({
    queryKey: ["trial", id],
    queryFn: () => api.get<Trial>(`/trials/${id}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
  });
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

function LoadedTrial({ loaded, printers, spools }: { loaded: Trial; printers: SavedPrinter[]; spools: SavedSpool[] }) {
  const [store] = useState<EditorStore>(() => createEditor(loaded));
  const { trial, past, future, edit, editPlan, undo, redo } = store();
  const { flush, problem } = useAutosave(store);
  const printer = printers.find(({ id }) => id === trial.printerId) ?? null;
  const spool = spools.find(({ id }) => id === trial.spoolId) ?? null;
  const { view, failure, client } = useTrialView(trial, printer, spool);
  const router = useRouter();
  const tell = useTell();
  const roomPx = useRoom(258);
  const [shown, setShown] = useState<View>("log");
  const [step, setStep] = useState<Step>("plan");
  const [cursor, setCursor] = useState(0);
  const [filling, setFilling] = useState(false);
  // The path is shown whole until a layer is chosen.
  const [pathLayer, setPathLayer] = useState<number | null>(null);

  const kind = trialKindFor(trial.kind);
  const key = kind.setting;
  const setting = settingFor(key);
  const { bands, tops, topMm } = useMemo(
    () => logBands(trial, key, view?.bandSettled.length === trial.plan.bands.length ? view.bandSettled : undefined),
    [trial, key, view],
  );
  const resolved = useMemo(() => resolveBands(trial.plan, tops), [trial.plan, tops]);
  const moves = useTrialMoves(shown === "above" || shown === "path" ? client : null, view);

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

  const columns = useMemo((): LogColumn[] => {
    const start: LogColumn[] = [
      { kind: "millimetres", title: "mm", width: 66 },
      view
        ? {
            kind: "front",
            title: `${kind.specimen.label}, seen from the front`,
            width: step === "plan" ? 330 : 236,
            front: view.front,
            widthMm: view.widthMm,
          }
        : { kind: "layers", title: "", width: 330 },
      { kind: "layers", title: "layer", width: 60 },
    ];
    if (!view) return start;
    const nozzle: LogColumn = {
      kind: "curves",
      title: "Nozzle, °C",
      width: step === "plan" ? 178 : 190,
      unit: "°C",
      curves: [
        { label: "set", values: view.nozzle.setC, style: "planned" },
        { label: "expected", values: view.nozzle.expectedC, style: "expected" },
      ],
    };
    const layerTime: LogColumn = {
      kind: "curves",
      title: "Layer, s",
      width: 88,
      unit: "s",
      curves: [{ label: "time", values: view.layers.seconds, style: "plain" }],
      range: zeroTo(view.layers.seconds),
    };
    if (step === "plan") {
      return [
        ...start,
        nozzle,
        layerTime,
        {
          kind: "values",
          title: "Set to",
          width: 132,
          values: {
            unit: setting.unit,
            low: setting.lowest,
            high: setting.highest,
            step: setting.step,
            decimals: setting.decimals,
            of: (band) => trial.plan.bands[band.number - 1]?.settings[key] ?? null,
            onChange: (band, value) => editPlan((plan) => setValue(plan, band.number - 1, key, value)),
          },
        },
      ];
    }
    return [
      ...start,
      nozzle,
      {
        kind: "curves",
        title: "Fan, %",
        width: 92,
        unit: "%",
        curves: [{ label: "fan", values: view.fanPercent, style: "plain" }],
        range: [0, 125],
      },
      {
        kind: "curves",
        title: "Flow, mm³/s",
        width: 100,
        unit: "mm³/s",
        curves: [{ label: "flow", values: view.layers.flowMm3S, style: "plain" }],
        range: zeroTo(view.layers.flowMm3S),
      },
      layerTime,
    ];
  }, [view, step, kind, key, setting, trial.plan, editPlan]);

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
  const missing = !printer
    ? "The printer of this trial was removed: choose another one."
    : !spool
      ? "The spool of this trial was removed: choose another one."
      : null;
  const cursorBand = bandOfLayer(resolved, cursor)?.number;

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
              tabs={views}
              chosen={shown}
              onChoose={(next) => setShown(next)}
            />
            <UndoRedo canUndo={past.length > 0} canRedo={future.length > 0} onUndo={undo} onRedo={redo} />
          </div>
          {shown === "log" && (
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
          {shown === "log" && step === "check" && view && <HeatChart view={view} />}
          {shown === "bands" && (
            <BandTable
              plan={trial.plan}
              bands={resolved}
              colours={bands.map(({ colour }) => colour)}
              settingKey={key}
              cursorBand={cursorBand}
              onChange={editPlan}
              onFill={() => setFilling(true)}
            />
          )}
          {shown === "above" && (
            <AboveView moves={moves} layer={cursor} tops={tops} onLayer={setCursor} heightPx={roomPx + 52} />
          )}
          {shown === "path" && (
            <PathView
              moves={moves}
              bands={bands}
              layer={pathLayer ?? tops.length - 1}
              tops={tops}
              onLayer={setPathLayer}
              heightPx={roomPx + 52}
            />
          )}
          {shown === "program" && <ProgramView client={client} view={view} layer={cursor} heightPx={roomPx + 52} />}
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
          <Button block onClick={() => void flush().then(() => router.push(`/workshop?plan=${trial.id}`), tell.error)}>
            Put this plan on my own file
          </Button>
        </div>
      </div>
      {filling && (
        <FillDialog
          open
          plan={trial.plan}
          settingKey={key}
          onClose={() => setFilling(false)}
          onTake={(plan) => edit({ plan })}
        />
      )}
    </>
  );
}

/** From 0 to a little above what nearly all layers need: a slow first layer must not flatten the rest. */
function zeroTo(values: Float32Array): [number, number] {
  const sorted = Float32Array.from(values).sort();
  const usual = sorted[Math.floor((sorted.length - 1) * 0.97)] ?? 1;
  return [0, Math.max(1, usual * 1.25)];
}
