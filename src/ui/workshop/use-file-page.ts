"use client";
/** An opened file as its page shows it: what is applied to it, what is looked at, and what can be done. */
import { useQueryClient } from "@tanstack/react-query";
import { useRouter, useSearchParams } from "next/navigation";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { withLiftOut } from "@/core/edits/with-lift-out";
import type { Mend } from "@/core/findings/finding";
import { layerOfPlace, lineOfPlace } from "@/core/findings/place";
import type { Change } from "@/core/heightplan/change";
import { followChanges } from "@/core/heightplan/planned";
import { stretchesOf } from "@/core/heightplan/stretches";
import type { ProgramReport } from "@/core/report/report";
import { SettingKey, settingFor, settingKeys } from "@/core/settings";
import { changesOfTrial } from "@/core/trials/changes-of-trial";
import { plainNumber, roundTo } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { useInAddress, useLayerInAddress } from "../common/in-address";
import { useBenchPair, usePrinters, useTrial, useTrials } from "../common/queries";
import { useTell } from "../common/talk";
import type { LogBand } from "../heightlog/column";
import { valueColours } from "../theme/value-colours";
import { fileColumns } from "./file-columns";
import { EditsAnswer, useFileEditor } from "./file-editor";
import { convertPlace, heightOfLayer, placeFrom, PlaceMode } from "./places";
import { useFrontColumn } from "./use-front-column";
import type { ListedFile } from "./workshop-page";

/** Room for the piece on the log, px. */
const FRONT_PX = 270;

const shownViews = ["edits", "log", "plan", "above", "path", "figures", "lines", "program"] as const;
export type View = (typeof shownViews)[number];

export interface LoadedFileProps {
  file: ListedFile;
  report: ProgramReport;
  loaded: EditsAnswer;
}

export function useFilePage({ file, report, loaded }: LoadedFileProps) {
  const editor = useFileEditor(file.id, loaded);
  const { stack, change, answer } = editor;
  const bench = useBenchPair().printer;
  const own = usePrinters().data?.find(({ id }) => id === file.printerId);
  const trials = useTrials().data;
  const [view, setView] = useInAddress("view", shownViews, "log");
  const [cursor, setCursor] = useLayerInAddress("layer");
  const [programLine, setProgramLine] = useState(0);
  const [askedLine, setAskedLine] = useState<{ line: number } | null>(null);
  const [mode, setMode] = useState<PlaceMode>("height");
  const { layers } = report;
  const { changes, setChanges } = usePlan(editor);
  useBroughtPlan(file.id, setChanges);

  const { planned, followed } = useMemo(() => followChanges(changes, layers), [changes, layers]);
  const key: SettingKey = settingKeys.find((one) => planned[one]) ?? "nozzleTemperature";
  const tops = useMemo(() => Float64Array.from(layers, ({ zMm }) => zMm), [layers]);
  const topMm = useMemo(() => tops.reduce((high, zMm) => Math.max(high, zMm), 0), [tops]);
  const bands = useMemo(
    () => bandsOf(planned[key], followed[key], layers, settingFor(key).decimals),
    [planned, followed, key, layers],
  );
  /** Changes the change that the layer of a band follows. */
  const changeOf = useCallback(
    (layer: number, to: (one: Change) => Change) => {
      const index = followed[key]?.[layer] ?? -1;
      if (index >= 0) setChanges(changes.map((one, i) => (i === index ? to(one) : one)));
    },
    [followed, key, changes, setChanges],
  );
  const client = useQueryClient();
  const changePrinter = useCallback(
    async (id: number, printerId: number) => {
      await api.put(`/files/${id}`, { printerId });
      // It is read anew, and its edits come to something else.
      await Promise.all(
        [keys.file(id), keys.fileReport(id), keys.fileEdits(id)].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      );
    },
    [client],
  );
  const front = useFrontColumn(file.id, report, FRONT_PX);
  const columns = useMemo(
    () =>
      fileColumns({
        report,
        front,
        key,
        planned: planned[key],
        onValue: (band, value) =>
          changeOf(band.firstLayer, (one) => ({ ...one, settings: { ...one.settings, [key]: value } })),
      }),
    [report, front, key, planned, changeOf],
  );
  return {
    ...editor,
    file,
    report,
    printer: own ?? bench ?? null,
    changePrinter,
    trials: useMemo(() => trials ?? [], [trials]),
    view,
    setView,
    cursor,
    setCursor,
    /** The line (from 0) at which the program is shown. */
    programLine,
    setProgramLine,
    /** The line a finding led to, another object each time. */
    askedLine,
    /** What a finding's place leads to: its line in the program as it came, else its layer on the log. */
    leadsTo(where: string) {
      // What is left on is left on by its last line.
      const line = where === "end of the file" ? report.lines : lineOfPlace(where);
      const layer = layerOfPlace(where);
      if (line === null && layer === null) return null;
      return () => {
        if (layer !== null) setCursor(Math.min(layers.length, layer) - 1);
        if (line === null) return;
        setAskedLine({ line: line - 1 });
        setView("program");
      };
    },
    mode,
    /** Places are said in another way. */
    changeMode(next: PlaceMode) {
      setMode(next);
      if (changes.length === 0) return;
      const said = (place: Change["from"]) => convertPlace(place, next, layers);
      setChanges(
        changes.map((one) => ({ ...one, from: said(one.from), ...(one.until ? { until: said(one.until) } : {}) })),
      );
    },
    changes,
    setChanges,
    tops,
    topMm,
    bands,
    columns,
    moveEdge(bandIndex: number, mm: number) {
      const from = convertPlace(placeFrom(Math.max(0, roundTo(mm, 1)), "height"), mode, layers);
      changeOf(bands[bandIndex].firstLayer, (one) => ({ ...one, from }));
    },
    mend({ edit }: Mend) {
      if (edit) change(withLiftOut(stack, edit));
    },
    // What would do harm is not handed out with changes in it, and never sent.
    isStopped: answer.findings.some(({ severity }) => severity === "stop"),
    changedLines: answer.edits.reduce((sum, one) => sum + one.changedLines, 0),
  };
}

export type FilePageState = ReturnType<typeof useFilePage>;

type Editor = ReturnType<typeof useFileEditor>;

/** The one plan among the edits. */
function usePlan({ stack, change }: Editor) {
  const plan = stack.find((edit) => edit.kind === "height-plan");
  const changes = useMemo(() => (plan?.kind === "height-plan" ? plan.changes : []), [plan]);
  const setChanges = useCallback(
    (next: Change[]) => {
      const laid = { kind: "height-plan" as const, changes: next };
      // A plan stays where it is among the others.
      const isThere = stack.some(({ kind }) => kind === "height-plan");
      if (next.length === 0) change(stack.filter(({ kind }) => kind !== "height-plan"));
      else if (!isThere) change([...stack, laid]);
      else change(stack.map((edit) => (edit.kind === "height-plan" ? { ...edit, ...laid } : edit)));
    },
    [stack, change],
  );
  return { changes, setChanges };
}

/** A plan that came along from a trial is laid over the file at once. */
function useBroughtPlan(fileId: number, setChanges: (changes: Change[]) => void): void {
  const router = useRouter();
  const tell = useTell();
  const wanted = useSearchParams().get("plan");
  const trial = useTrial(wanted === null ? null : Number(wanted)).data;
  const isBrought = useRef(false);
  useEffect(() => {
    if (!trial || isBrought.current) return;
    isBrought.current = true;
    setChanges(changesOfTrial(trial));
    router.replace(`/workshop/${fileId}`);
    tell.done(
      trial.plan.sideBySide
        ? `The plan of “${trial.name}” is applied to this file, except its side-by-side values: those need its own piece.`
        : `The plan of “${trial.name}” is applied to this file.`,
    );
  }, [trial, setChanges, router, fileId, tell]);
}

/** Stretches of layers that follow one change, as bands of the log. */
function bandsOf(
  values: Float64Array | undefined,
  who: Int32Array | undefined,
  layers: ProgramReport["layers"],
  decimals: number,
): LogBand[] {
  if (!values || !who) return [];
  const stretches = stretchesOf(values, who);
  const colours = valueColours(stretches.map(({ value }) => value));
  return stretches.map(({ firstLayer, lastLayer, value }, i) => ({
    number: i + 1,
    fromMm: heightOfLayer(firstLayer, layers),
    toMm: layers[lastLayer].zMm,
    firstLayer,
    lastLayer,
    colour: colours[i],
    label: plainNumber(value, decimals),
  }));
}
