"use client";
/** One opened file: its layers on the height log, a plan laid over it, what changes, and the finished file. */
import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRouter, useSearchParams } from "next/navigation";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Mend } from "@/core/findings/finding";
import type { Edit } from "@/core/edits";
import { Change } from "@/core/heightplan/change";
import { followChanges } from "@/core/heightplan/planned";
import type { ProgramReport } from "@/core/report/report";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { plainNumber, roundTo, sayDuration } from "@/core/units";
import { Loading } from "../common/loading";
import { api, ApiError } from "../common/api";
import { Facts } from "../common/facts";
import { Findings } from "../common/findings";
import { useBenchPair, usePrinters, useTrial, useTrials } from "../common/queries";
import { TabRow } from "../common/tab-row";
import { UndoRedo } from "../common/undo-redo";
import { useRoom } from "../common/use-room";
import type { LogBand, LogColumn } from "../heightlog/columns";
import { HeightLog } from "../heightlog/height-log";
import { valueColours } from "../trials/log-bands";
import { changesOfTrial } from "@/core/trials/changes-of-trial";
import { ChangeTable, ClashDialog } from "./opened-later";
import { convertPlace, heightOfLayer, placeFrom, PlaceMode } from "./places";
import { EditsAnswer, useFileEditor } from "./file-editor";
import { ProofCard } from "./proof-card";
import type { ListedFile } from "./workshop-page";
import { keys } from "../common/keys";
import { useTell } from "../common/talk";

export function FilePage({ id }: { id: number }) {
  const once = { gcTime: 0, staleTime: Infinity, retry: false };
  const file = useQuery({ queryKey: keys.file(id), queryFn: () => api.get<ListedFile>(`/files/${id}`), ...once });
  const report = useQuery({
    queryKey: keys.fileReport(id),
    queryFn: () => api.get<ProgramReport>(`/files/${id}/report`),
    ...once,
  });
  const edits = useQuery({
    queryKey: keys.fileEdits(id),
    queryFn: () => api.get<EditsAnswer>(`/files/${id}/edits`),
    ...once,
  });
  const error = file.error ?? report.error ?? edits.error;
  if (error) {
    return (
      <div className="empty" role="alert">
        <h1>This file is not here</h1>
        <p>{error instanceof ApiError ? error.message : "It could not be loaded."}</p>
        <Button href="/workshop">All files</Button>
      </div>
    );
  }
  if (!file.data || !report.data || !edits.data) return <Loading rows={12} />;
  return <LoadedFile key={id} file={file.data} report={report.data} loaded={edits.data} />;
}

type View = "log" | "plan" | "lines";
const views: { key: View; label: string }[] = [
  { key: "log", label: "Height log" },
  { key: "plan", label: "Plan" },
  { key: "lines", label: "Changed lines" },
];

function LoadedFile({ file, report, loaded }: { file: ListedFile; report: ProgramReport; loaded: EditsAnswer }) {
  const { stack, change, undo, redo, canUndo, canRedo, answer, problem, waiting, clash, settle } = useFileEditor(
    file.id,
    loaded,
  );
  const listed = useTrials().data;
  const trials = useMemo(() => listed ?? [], [listed]);
  const bench = useBenchPair().printer;
  const own = usePrinters().data?.find(({ id }) => id === file.printerId);
  const printer = own ?? bench ?? null;
  const router = useRouter();
  const tell = useTell();
  const [view, setView] = useState<View>("log");
  const [cursor, setCursor] = useState(0);
  const [mode, setMode] = useState<PlaceMode>("height");
  const roomPx = useRoom(268);
  const { layers } = report;

  const planEdit = stack.find((edit) => edit.kind === "height-plan");
  const changes = useMemo(() => (planEdit?.kind === "height-plan" ? planEdit.changes : []), [planEdit]);
  const setChanges = useCallback(
    (next: Change[]) => {
      const others = stack.filter(({ kind }) => kind !== "height-plan");
      change(next.length > 0 ? [...others, { kind: "height-plan", changes: next }] : others);
    },
    [stack, change],
  );

  // A plan that came along from a trial is laid over the file at once.
  const wanted = useSearchParams().get("plan");
  const brought = useRef(false);
  const broughtTrial = useTrial(wanted === null ? null : Number(wanted)).data;
  useEffect(() => {
    const trial = broughtTrial;
    if (!trial || brought.current) return;
    brought.current = true;
    setChanges(changesOfTrial(trial));
    router.replace(`/workshop/${file.id}`);
    tell.done(
      trial.plan.sideBySide
        ? `The plan of “${trial.name}” lies over this file, but for its values side by side: those stand on its own piece.`
        : `The plan of “${trial.name}” lies over this file.`,
    );
  }, [broughtTrial, setChanges, router, file.id, tell]);

  const { planned, followed } = useMemo(() => followChanges(changes, layers), [changes, layers]);
  const key: SettingKey = settingKeys.find((one) => planned[one]) ?? "nozzleTemperature";
  const setting = settingFor(key);
  const tops = useMemo(() => Float64Array.from(layers, ({ zMm }) => zMm), [layers]);
  const topMm = useMemo(() => layers.reduce((high, { zMm }) => Math.max(high, zMm), 0), [layers]);
  const bands = useMemo(
    () => bandsOf(planned[key], followed[key], layers, setting.decimals),
    [planned, followed, key, layers, setting.decimals],
  );
  const moveChange = (bandIndex: number, mm: number) => {
    const index = followed[key]?.[bands[bandIndex].firstLayer] ?? -1;
    if (index < 0) return;
    const from = convertPlace(placeFrom(Math.max(0, roundTo(mm, 1)), "height"), mode, layers);
    setChanges(changes.map((one, i) => (i === index ? { ...one, from } : one)));
  };

  const columns = useMemo((): LogColumn[] => {
    const own = Float64Array.from(layers, (_, i) => report.settings[key]?.[i] ?? NaN);
    const withPlan = own.map((value, i) => (planned[key] && !Number.isNaN(planned[key][i]) ? planned[key][i] : value));
    return [
      { kind: "millimetres", title: "mm", width: 66 },
      {
        kind: "outline",
        title: "Width of the material",
        width: 270,
        minX: layers.map(({ minX }) => minX),
        maxX: layers.map(({ maxX }) => maxX),
      },
      { kind: "layers", title: "layer", width: 84, markers: layers.map(({ marker }) => marker) },
      {
        kind: "curves",
        title: `${setting.label}, ${setting.unit}`,
        width: 190,
        unit: setting.unit,
        curves: planned[key]
          ? [
              { label: "the file’s own", values: own, style: "planned" },
              { label: "with plan", values: withPlan, style: "plain" },
            ]
          : [{ label: "the file’s own", values: own, style: "plain" }],
      },
      {
        kind: "curves",
        title: "Layer, s",
        width: 96,
        unit: "s",
        curves: [{ label: "time", values: layers.map(({ seconds }) => seconds), style: "plain" }],
      },
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
          of: (band) => planned[key]?.[band.firstLayer] ?? null,
          onChange: (band, value) => {
            const index = followed[key]?.[band.firstLayer] ?? -1;
            if (index >= 0)
              setChanges(
                changes.map((one, i) => (i === index ? { ...one, settings: { ...one.settings, [key]: value } } : one)),
              );
          },
        },
      },
    ];
  }, [report, key, planned, followed, layers, setting, changes, setChanges]);

  const mend = ({ edit }: Mend) => {
    if (!edit) return;
    const same = (one: Edit) => one.kind === "lift-out" && one.what === edit.what && one.tool === edit.tool;
    const before = stack.find(same);
    const merged =
      before?.kind === "lift-out" && edit.settings
        ? { ...edit, settings: [...new Set([...(before.settings ?? []), ...edit.settings])] }
        : edit;
    change([merged, ...stack.filter((one) => !same(one))]);
  };
  // What would do harm is not handed out with changes in it, and never sent.
  const stopped = answer.findings.some(({ severity }) => severity === "stop");
  const changedLines = answer.edits.reduce((sum, one) => sum + one.changedLines, 0);

  return (
    <>
      {clash && (
        <ClashDialog
          what="file"
          fields={["what lies over it"]}
          onTheirs={() => settle("theirs")}
          onMine={() => settle("mine")}
        />
      )}
      <div className="page-head">
        <div style={{ minWidth: 0 }}>
          <h1 style={{ overflowWrap: "anywhere" }}>{file.name}</h1>
          <p className="sub">
            {layers.length} layers up to {plainNumber(topMm)} mm, the first {plainNumber(layers[0].heightMm)} mm.{" "}
            {report.markers
              ? `Comments like “${report.markers.shape}” open its layers and count from ${report.markers.countsFrom}.`
              : "No comments open its layers; they were found by where material is laid."}
          </p>
        </div>
      </div>
      <div className="two-sides">
        <div>
          <div style={{ display: "flex", justifyContent: "space-between", gap: 12, flexWrap: "wrap" }}>
            <TabRow<View>
              label="View"
              className="views"
              tabs={views}
              chosen={view}
              onChoose={(next) => setView(next)}
            />
            <UndoRedo canUndo={canUndo} canRedo={canRedo} onUndo={undo} onRedo={redo} />
          </div>
          {view === "log" && (
            <HeightLog
              label="Height log of the file"
              columns={columns}
              bands={bands}
              tops={tops}
              topMm={topMm}
              cursorLayer={cursor}
              onCursor={setCursor}
              onMoveEdge={changes.length > 0 ? moveChange : undefined}
              roomPx={roomPx}
            >
              <LayerNote report={report} layer={cursor} />
            </HeightLog>
          )}
          {view === "plan" && (
            <ChangeTable
              changes={changes}
              layers={layers}
              mode={mode}
              tools={printer?.tools ?? 1}
              trials={trials}
              onMode={(next) => {
                setMode(next);
                if (changes.length > 0)
                  setChanges(
                    changes.map((one) => ({
                      ...one,
                      from: convertPlace(one.from, next, layers),
                      ...(one.until ? { until: convertPlace(one.until, next, layers) } : {}),
                    })),
                  );
              }}
              onChange={setChanges}
            />
          )}
          {view === "lines" && <ChangedLines answer={answer} />}
        </div>
        <div className="side">
          <section className="card" aria-label="This file">
            <h2>This file</h2>
            <Facts
              rows={[
                ["Time", sayDuration(report.seconds)],
                ...sayWaits(report),
                ...report.filament.map(({ tool, mm }): [string, string] => [
                  report.filament.length > 1 ? `Filament, tool ${tool}` : "Filament",
                  `${roundTo(mm / 1000, 2).toFixed(2)} m`,
                ]),
                ["Lines", report.lines.toLocaleString("en")],
                ["Lines that change", waiting ? "…" : String(changedLines)],
              ]}
            />
          </section>
          {stack.some(({ kind }) => kind === "lift-out") && (
            <section className="card" aria-label="Taken out">
              <h2>Taken out</h2>
              {stack.map((edit, index) =>
                edit.kind === "lift-out" ? (
                  <div key={index} className="finding note" style={{ marginTop: 6 }}>
                    {edit.what === "cuchara"
                      ? "The lines of an earlier plan"
                      : `The file’s own changes of ${(edit.settings ?? ["nozzleTemperature", "bedTemperature"]).map((one) => settingFor(one).short).join(", ")}${edit.tool === undefined ? "" : ` for tool ${edit.tool}`}`}
                    : {answer.edits[index]?.changedLines ?? 0} lines.{" "}
                    <button className="link-button" onClick={() => change(stack.filter((_, i) => i !== index))}>
                      Put them back
                    </button>
                  </div>
                ) : null,
              )}
            </section>
          )}
          <section className="card" aria-label="Checks">
            <h2>Checks</h2>
            {problem && (
              <div className="finding stop" role="alert">
                {problem}
              </div>
            )}
            <Findings
              findings={answer.findings}
              passed={
                answer.findings.length === 0 && changes.length === 0
                  ? ["Nothing in this file gets in a plan's way."]
                  : []
              }
              onMend={mend}
            />
            <ProofCard
              fileId={file.id}
              sizeBytes={file.sizeBytes}
              version={waiting ? null : JSON.stringify(answer.stack)}
              planned={changes.length > 0}
            />
          </section>
          <Button
            className="go"
            size="large"
            block
            href={`/api/files/${file.id}/gcode`}
            download
            disabled={waiting || problem !== null || (stack.length > 0 && stopped)}
          >
            Get the file
          </Button>
          {printer && (
            <Button
              block
              disabled={waiting || problem !== null || stopped}
              onClick={() => router.push(`/printer/${printer.id}?view=job&file=${file.id}`)}
            >
              Send it to {printer.name}
            </Button>
          )}
          {view !== "plan" && (
            <Button block onClick={() => setView("plan")}>
              {changes.length === 0 ? "Lay a plan over it" : "Change the plan"}
            </Button>
          )}
        </div>
      </div>
    </>
  );
}

/** What passes besides the moves, in words. */
function sayWaits({ waits }: ProgramReport): [string, string][] {
  if (waits.heatings === 0) return [];
  return [["Heating up, about", sayDuration(waits.heatingSeconds)]];
}

/** Stretches of layers that follow one change. */
function bandsOf(
  values: Float64Array | undefined,
  who: Int32Array | undefined,
  layers: ProgramReport["layers"],
  decimals: number,
): LogBand[] {
  if (!values || !who) return [];
  const stretches: { first: number; last: number; value: number }[] = [];
  for (let i = 0; i < layers.length; i++) {
    if (who[i] < 0) continue;
    const open = stretches[stretches.length - 1];
    if (open && open.last === i - 1 && who[i - 1] === who[i]) open.last = i;
    else stretches.push({ first: i, last: i, value: values[i] });
  }
  const colours = valueColours(stretches.map(({ value }) => value));
  return stretches.map(({ first, last, value }, i) => ({
    number: i + 1,
    fromMm: heightOfLayer(first, layers),
    toMm: layers[last].zMm,
    firstLayer: first,
    lastLayer: last,
    colour: colours[i],
    label: plainNumber(value, decimals),
  }));
}

/** What the cursor's layer is called, both ways of counting. */
function LayerNote({ report, layer }: { report: ProgramReport; layer: number }) {
  const { zMm, heightMm, insertLine, marker } = report.layers[Math.min(layer, report.layers.length - 1)];
  return (
    <span>
      Layer <b>{layer}</b> from 0, <b>{layer + 1}</b> from 1
      {marker !== undefined && `, “${report.markers?.shape.replace("#", String(marker))}”`}:{" "}
      {plainNumber(zMm - heightMm)} to {plainNumber(zMm)} mm, opens at line {insertLine}
    </span>
  );
}

function ChangedLines({ answer }: { answer: EditsAnswer }) {
  if (answer.inserted.length === 0 && answer.removed.length === 0) {
    return <div className="empty">No line changes: the file comes out as it went in, byte for byte.</div>;
  }
  return (
    <div className="card" style={{ padding: 0, overflowX: "auto" }}>
      <table className="grid-table">
        <thead>
          <tr>
            <th>Line</th>
            <th>Layer from 1</th>
            <th>From</th>
            <th>What happens</th>
          </tr>
        </thead>
        <tbody>
          {answer.inserted.map(({ line, layer, fromMm, text }) => (
            <tr key={`${line}-${text}`}>
              <td className="mono">before {line + 1}</td>
              <td className="mono">{layer + 1}</td>
              <td className="mono">{plainNumber(fromMm)} mm</td>
              <td className="mono">+ {text}</td>
            </tr>
          ))}
          {answer.removed.map(({ line }) => (
            <tr key={line}>
              <td className="mono">{line + 1}</td>
              <td />
              <td />
              <td>taken out</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
