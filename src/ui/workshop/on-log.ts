/** Where an edit stands on the height log, and what dragging it there makes of it. */
import { Edit, kindOf } from "@/core/edits";
import type { Scope } from "@/core/edits/scope";
import type { LayerReport } from "@/core/report/report";
import { roundTo } from "@/core/units";

type Layers = readonly LayerReport[];

/** A stretch with two ends, or a single height. */
export type OnLog = { kind: "stretch"; fromMm: number; toMm: number } | { kind: "point"; mm: number };
export type LogEnd = "from" | "to" | "at";

/** The part of an edit that says where it acts; null for edits that say it otherwise. */
function scopeOf(edit: Edit): Scope | null {
  const { scopeIn } = kindOf(edit);
  if (scopeIn === undefined) return null;
  return scopeIn === "edit" ? (edit as Scope) : (edit as { scope: Scope }).scope;
}

const bottomOf = ({ zMm, heightMm }: LayerReport) => zMm - heightMm;

/** Null where it acts by its places alone. */
export function onLog(edit: Edit, layers: Layers): OnLog | null {
  if (edit.kind === "pause") {
    const { at } = edit;
    if ("heightMm" in at) return { kind: "point", mm: at.heightMm };
    const layer = layers[at.layer - at.countsFrom];
    return layer ? { kind: "point", mm: bottomOf(layer) } : null;
  }
  const scope = scopeOf(edit);
  if (!scope) return null;
  const { fromLayer, toLayer, fromMm, toMm, countsFrom = 1 } = scope;
  const topMm = layers[layers.length - 1].zMm;
  const from = fromLayer === undefined ? undefined : layers[fromLayer - countsFrom];
  const to = toLayer === undefined ? undefined : layers[toLayer - countsFrom];
  return {
    kind: "stretch",
    fromMm: fromMm ?? (from ? bottomOf(from) : 0),
    toMm: Math.min(topMm, toMm ?? to?.zMm ?? topMm),
  };
}

/** The edit with one end of it dragged to a height. */
export function draggedTo(edit: Edit, end: LogEnd, mm: number, layers: Layers): Edit {
  const topMm = layers[layers.length - 1].zMm;
  const height = roundTo(Math.min(topMm, Math.max(0, mm)), 1);
  if (edit.kind === "pause") return { ...edit, at: { heightMm: height } };
  const scope = scopeOf(edit);
  if (!scope) return edit;
  const changed = { ...scope, ...movedEnd(scope, end, height, layers) };
  return (kindOf(edit).scopeIn === "scope" ? { ...edit, scope: changed } : { ...edit, ...changed }) as Edit;
}

/** Said in layers where the edit speaks of layers, else in millimetres; one end never passes the other. */
function movedEnd(scope: Scope, end: LogEnd, mm: number, layers: Layers): Scope {
  const { fromLayer, toLayer, fromMm, toMm, countsFrom = 1 } = scope;
  if (fromLayer === undefined && toLayer === undefined) {
    if (end === "from") return { fromMm: Math.min(mm, (toMm ?? Infinity) - 0.1) };
    return { toMm: Math.max(mm, (fromMm ?? 0) + 0.1) };
  }
  const index = Math.max(
    0,
    layers.findIndex((layer) => layer.zMm > mm + 1e-6),
  );
  if (end === "from") return { fromLayer: Math.min(index + countsFrom, toLayer ?? Infinity), countsFrom };
  const last = mm >= layers[layers.length - 1].zMm ? layers.length - 1 : index;
  return { toLayer: Math.max(last + countsFrom, fromLayer ?? countsFrom), countsFrom };
}
