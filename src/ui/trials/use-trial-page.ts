"use client";
/** A trial as its page shows it: the editor, what the worker makes of it, what is looked at, and what can be done. */
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import type { Mend } from "@/core/findings/finding";
import { sayKey } from "@/core/units";
import { bandOfLayer, resolveBands, type ResolvedBand } from "@/core/heightplan/plan";
import { setValue } from "@/core/heightplan/reshape";
import { optionsOf } from "@/core/options/option";
import type { SettingKey } from "@/core/settings";
import { trialKindFor } from "@/core/trials";
import { firstRound } from "@/core/trials/first-round";
import { variedOf } from "@/core/trials/shown";
import { api, KeptValue, SavedPrinter, SavedSpool, StoredTrial } from "../common/api";
import { useExpected, useKept } from "../common/queries";
import { useTell } from "../common/talk";
import { useRuns } from "../reading/use-runs";
import { isInDialog, isTyping } from "../frame/use-global-keys";
import type { BandToKeep } from "./keep-card";
import { useInAddress, useLayerInAddress } from "../common/in-address";
import { useKeep } from "./use-keep";
import { useTrialEditor, useTrialView } from "./editor";
import { logBands } from "./log-bands";
import { trialColumns } from "./log-columns";
import { useTrialMoves } from "./trial-moves";

const shownViews = ["log", "bands", "above", "path", "program"] as const;
export type View = (typeof shownViews)[number];
const steps = ["plan", "check", "run", "read", "keep"] as const;
export type Step = (typeof steps)[number];

/** Lower pieces are looked at from above only. */
const FLAT_MM = 2;

export interface LoadedTrialProps {
  loaded: StoredTrial;
  printers: SavedPrinter[];
  spools: SavedSpool[];
}

export function useTrialPage({ loaded, printers, spools }: LoadedTrialProps) {
  const editor = useTrialEditor(loaded);
  const { trial, editPlan } = editor;
  const printer = printers.find(({ id }) => id === trial.printerId) ?? null;
  const spool = spools.find(({ id }) => id === trial.spoolId) ?? null;
  const { view, failure, client } = useTrialView(trial, loaded.version, printer, spool);
  const [chosenView, setView] = useInAddress("view", shownViews, "log");
  const [step, chooseStep] = useInAddress("step", steps, "plan");
  const [runId, setRunId] = useState<number | null>(null);
  const runs = useRuns(trial.id).data;
  // A step shows what it is about, whichever view was open: what a check adds stands on the log.
  const setStep = (next: Step) => {
    if (next === "check") setView("log");
    chooseStep(next);
  };
  const [cursor, setCursor] = useLayerInAddress("layer");
  const [filling, setFilling] = useState(false);
  // The path is shown whole until a layer is chosen.
  const [pathLayer, setPathLayer] = useState<number | null>(null);

  const kind = trialKindFor(trial.kind);
  const varied = useMemo(() => variedOf(trial, printer), [trial, printer]);
  const [chosenKey, setKey] = useState<SettingKey | null>(null);
  const key = chosenKey && varied.includes(chosenKey) ? chosenKey : varied[0];
  const { bands, tops, topMm } = useMemo(() => {
    const settled = view?.bandSettled.length === trial.plan.bands.length ? view.bandSettled : undefined;
    return logBands(trial, key, ({ index, settings }) => {
      const note = printer ? kind.bandNote?.(settings, printer, trial.layerHeightMm) : null;
      if (note) return note;
      if (!settled || settings.nozzleTemperature === undefined) return undefined;
      return `settled in ${Math.round(settled[index] * 100)} % of it`;
    });
  }, [trial, key, view, kind, printer]);
  const resolved = useMemo(() => resolveBands(trial.plan, tops), [trial.plan, tops]);
  // A piece of a layer or two has nothing to show on a log.
  const isFlat = topMm < FLAT_MM;
  const shown: View = isFlat && chosenView === "log" ? "above" : chosenView;
  const moves = useTrialMoves(shown === "above" || shown === "path" ? client : null, view);
  const options = printer ? optionsOf(kind.options, trial.options, printer) : trial.options;
  const specimen = trial.sheet ? trial.sheet.name : sayKey(kind.specimen(options));
  const columns = useMemo(
    () =>
      trialColumns({
        view,
        step: step === "plan" ? "plan" : "check",
        specimen,
        plan: trial.plan,
        shown: key,
        varied,
        highestFlowMm3S: printer?.highestFlowMm3S ?? null,
        onValue: (band, value) => editPlan((plan) => setValue(plan, band.number - 1, key, value)),
      }),
    [view, step, specimen, key, varied, trial.plan, printer, editPlan],
  );
  const missing = !printer
    ? "The printer of this trial was removed: choose another one."
    : !spool
      ? "The spool of this trial was removed: choose another one."
      : null;
  const acts = useTrialActs(editor, printer, spool);
  const stop = view?.findings.find(({ severity }) => severity === "stop") ?? null;
  const isHeld = !view || stop !== null || missing !== null;
  const cursorBand = bandOfLayer(resolved, cursor);
  const toKeep = useMemo(
    () => (missing ? null : bandToKeep(cursorBand, key, varied)),
    [missing, cursorBand, key, varied],
  );
  const { keep } = useKeep(trial);
  usePageKeys({
    f: () => setFilling(true),
    d: () => !isHeld && acts.download(),
    k: () => toKeep && void keep(toKeep.settings),
    "ctrl z": editor.undo,
    "ctrl shift z": editor.redo,
  });
  return {
    ...editor,
    ...acts,
    printer,
    spool,
    kind,
    view,
    client,
    moves,
    problem: missing ?? failure ?? editor.problem,
    missing,
    stop,
    isHeld,
    shown,
    setView,
    isFlat,
    step,
    setStep,
    runs,
    runId,
    setRunId,
    cursor,
    setCursor,
    cursorBand,
    toKeep,
    pathLayer,
    setPathLayer,
    filling,
    setFilling,
    key,
    setKey,
    varied,
    bands,
    resolved,
    tops,
    topMm,
    columns,
    specimen,
  };
}

export type TrialPageState = ReturnType<typeof useTrialPage>;

type Editor = ReturnType<typeof useTrialEditor>;

/** What a band tried, the shown setting first; null on the base. */
function bandToKeep(band: ResolvedBand | undefined, shown: SettingKey, varied: SettingKey[]): BandToKeep | null {
  const tried = [shown, ...varied.filter((key) => key !== shown)].flatMap((key) => {
    const value = band?.settings[key];
    return value === undefined ? [] : [[key, value] as const];
  });
  return band && tried.length > 0 ? { number: band.number, settings: Object.fromEntries(tried) } : null;
}

/** Keys of the page, wherever on it nobody is typing: `f`, `ctrl z`, `ctrl shift z`. */
function usePageKeys(acts: Record<string, () => unknown>): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.altKey || isInDialog(event.target)) return;
      const isWith = event.ctrlKey || event.metaKey;
      const name = [isWith && "ctrl", isWith && event.shiftKey && "shift", event.key.toLowerCase()].filter(Boolean);
      const act = acts[name.join(" ")];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });
}

/** What can be done with the trial besides editing it. */
function useTrialActs(editor: Editor, printer: SavedPrinter | null, spool: SavedSpool | null) {
  const { trial, edit, flush, settle } = editor;
  const router = useRouter();
  const tell = useTell();
  const kept = useKept(trial.printerId, trial.spoolId).data;
  const expected = useExpected(trial.printerId, trial.spoolId).data;
  /** Goes there once everything is stored. */
  const go = (path: string) => void flush().then(() => router.push(path), tell.error);
  return {
    download: () =>
      void flush().then(() => {
        const link = document.createElement("a");
        link.href = `/api/trials/${trial.id}/gcode`;
        link.download = "";
        link.click();
      }, tell.error),
    send: () => go(`/printer/${trial.printerId}?view=job&trial=${trial.id}`),
    toOwnFile: () => go(`/workshop?plan=${trial.id}`),
    mend({ trial: change, open }: Mend) {
      if (change) edit(change);
      if (open === "printer") router.push(`/shelf/printers/${trial.printerId}`);
      if (open === "spool") router.push(`/shelf/spools/${trial.spoolId}`);
    },
    /** Somebody else has changed the same: mine becomes another trial. */
    async keepCopy() {
      try {
        const { id: _, version: _v, createdAt: _c, updatedAt: _u, ...fields } = trial;
        await api.post("/trials", { ...fields, name: `${trial.name} (mine)`.slice(0, 100) });
        settle("theirs");
        tell.done("Yours is kept as another trial.");
      } catch (error) {
        tell.error(error);
      }
    },
    /** A choice of the kind's; some make the first round anew. */
    choose(option: string, value: number | string | boolean, remakes: boolean) {
      const options = { ...trial.options, [option]: value };
      if (!remakes || !printer || !spool) return edit({ options });
      const { layerHeightMm, firstLayerHeightMm } = trial;
      const valuesOf = (some: readonly KeptValue[]) => Object.fromEntries(some.map((one) => [one.setting, one.value]));
      const { plan, fixed } = firstRound(trial.kind, {
        printer,
        spool,
        kept: valuesOf(kept ?? []),
        carried: valuesOf((kept ?? []).filter(({ carriedFrom }) => carriedFrom !== null)),
        expected,
        options,
        layerHeightMm,
        firstLayerHeightMm,
      });
      edit({ options, plan, fixed });
    },
  };
}
