/** The road of a printer and a spool: everything that can be found out, measured or asked, in the order of work, with its state. */
import { TuneKey, tuneFor } from "../measure";
import { sayResult, TuneResult } from "../measure/result";
import type { BenchRow, QuestionState } from "../trials/bench-row";
import type { TrialKindKey } from "../trials";
import { plainNumber } from "../units";

interface Step {
  state: QuestionState;
  why: string[];
  /** When it was kept, measured or printed last; null if never. */
  at: string | null;
  /** The first thing that is open: what to do next. */
  isNext: boolean;
  label: string;
  /** What was found, in words; empty if nothing was. */
  found: string;
}

export interface TrialStep extends Step {
  what: "trial";
  key: TrialKindKey;
  row: BenchRow;
}

export interface TuneStep extends Step {
  what: "tune";
  key: TuneKey;
  question: string;
  /** Good to have, and no reason to wait with the rest. */
  isAside: boolean;
  /** Why this printer cannot be tuned like this; empty if it can. */
  refused: string;
}

export type RoadStep = TrialStep | TuneStep;

/** The order of work: the extruder first, then for every spool temperature, fan and retraction, then flow, then motion. Common practice, no source. */
const order: readonly ({ trial: TrialKindKey } | { tune: TuneKey; isAside?: boolean })[] = [
  { tune: "extruder-steps" },
  { tune: "axis-steps", isAside: true },
  { tune: "axis-steps-from-parts", isAside: true },
  { tune: "nozzle-pid", isAside: true },
  { tune: "bed-pid", isAside: true },
  { tune: "bed-centre", isAside: true },
  { trial: "temperature" },
  { trial: "fan" },
  { trial: "retraction" },
  { trial: "retraction-matrix" },
  { tune: "firmware-retraction", isAside: true },
  { tune: "wall-flow", isAside: true },
  { trial: "flow" },
  { tune: "highest-flow", isAside: true },
  { trial: "speed" },
  { trial: "acceleration" },
  { trial: "cornering" },
  { trial: "pressure-advance" },
  { trial: "bridging" },
  { trial: "extrusion" },
];

export interface RoadKnown {
  rows: readonly BenchRow[];
  /** What was measured on the printer, newest first. */
  measured: readonly { tune: string; measuredAt: string; result: TuneResult }[];
  printer: Parameters<NonNullable<ReturnType<typeof tuneFor>["refuses"]>>[0];
  staleDays: number;
  now: string;
}

const DAY_MS = 86_400_000;

/** Every step, in the order of work. */
export function roadOf(known: RoadKnown): RoadStep[] {
  const steps = order.map((one): RoadStep => ("trial" in one ? trialStep(one.trial, known) : tuneStep(one, known)));
  // Two questions look for one value: the first that found it answers both.
  const next = steps.find((step) => isOpen(step));
  return steps.map((step) => ({ ...step, isNext: step === next }));
}

function isOpen(step: RoadStep): boolean {
  if (step.state === "kept" || step.state === "printing") return false;
  return step.what === "trial" || (!step.isAside && step.refused === "");
}

function trialStep(key: TrialKindKey, { rows }: RoadKnown): TrialStep {
  const row = rows.find(({ kind }) => kind === key)!;
  const { label, state, why, at, kept, decimals, unit } = row;
  const found = kept ? `${plainNumber(kept.value, decimals + 1)} ${unit}`.trim() : "";
  return { what: "trial", key, label, state, why, at, found, isNext: false, row };
}

function tuneStep(
  { tune: key, isAside = false }: { tune: TuneKey; isAside?: boolean },
  { measured, printer, staleDays, now }: RoadKnown,
): TuneStep {
  const { title, question, refuses } = tuneFor(key);
  const last = measured.find(({ tune }) => tune === key);
  const days = last ? Math.floor((Date.parse(now) - Date.parse(last.measuredAt)) / DAY_MS) : 0;
  const why = days > staleDays ? [`It is ${days} days old.`] : [];
  return {
    what: "tune",
    key,
    label: title,
    question,
    state: !last ? "never" : why.length > 0 ? "stale" : "kept",
    why,
    at: last?.measuredAt ?? null,
    found: last ? sayResult(last.result) || "as it should be" : "",
    isNext: false,
    isAside,
    refused: refuses?.(printer) ?? "",
  };
}
