/** All edits. A new one is one file and one line here. */
import { z } from "zod";
import { Finding } from "../findings/finding";
import { MOST_CHANGED_BYTES } from "../gcode/bounds";
import { refuse, Result, succeed } from "../result";
import { settingKeys } from "../settings";
import { Printer } from "../shelf/printer";
import { EditKind, PlannedForTool, SeenFile } from "./edit";
import { bridges, BridgesEdit } from "./kinds/bridges";
import { display, DisplayEdit } from "./kinds/display";
import { fan, FanEdit } from "./kinds/fan";
import { find, FindEdit } from "./kinds/find";
import { heightPlan, HeightPlanEdit } from "./kinds/height-plan";
import { liftOut, LiftOutEdit } from "./kinds/lift-out";
import { move, MoveEdit } from "./kinds/move";
import { outerWalls, OuterWallsEdit } from "./kinds/outer-walls";
import { pause, PauseEdit } from "./kinds/pause";
import { scaleFlow, ScaleFlowEdit } from "./kinds/scale-flow";
import { scaleSpeed, ScaleSpeedEdit } from "./kinds/scale-speed";
import { compose } from "./splices/compose";
import { filtered, TOO_MUCH } from "./splices/gather";
import { noSplices, packedBytes, SpliceCursor, SpliceSet } from "./splices/packed";
import { startEnd, StartEndEdit } from "./kinds/start-end";
import { tools, ToolsEdit } from "./kinds/tools";
import { waits, WaitsEdit } from "./kinds/waits";

const kinds = {
  "height-plan": heightPlan,
  "lift-out": liftOut,
  bridges,
  fan,
  find,
  display,
  waits,
  pause,
  move,
  tools,
  "start-end": startEnd,
  "scale-speed": scaleSpeed,
  "scale-flow": scaleFlow,
  "outer-walls": outerWalls,
};

/** An edit as it stacks: one that is off stays in its place and does nothing. */
export type Edit = (
  | HeightPlanEdit
  | LiftOutEdit
  | BridgesEdit
  | FanEdit
  | FindEdit
  | DisplayEdit
  | WaitsEdit
  | PauseEdit
  | MoveEdit
  | ToolsEdit
  | StartEndEdit
  | ScaleSpeedEdit
  | ScaleFlowEdit
  | OuterWallsEdit
) & {
  off?: true;
  /** Places it leaves alone, by their lines (from 1) in the file as it finds it; where its places do not depend on one another. */
  skip?: number[];
};

export type EditKey = keyof typeof kinds;

/** What an edit is called. */
export const editLabel = (kind: EditKey): string => kinds[kind].label;

export const editsSchema: z.ZodType<Edit[]> = z
  .array(
    z.unknown().transform((edit, context): Edit => {
      const kind = (edit as { kind?: unknown } | null)?.kind;
      if (typeof kind !== "string" || !Object.hasOwn(kinds, kind)) {
        context.addIssue({
          code: "custom",
          message: `An edit's kind is one of ${Object.keys(kinds).join(", ")}`,
          path: ["kind"],
        });
        return z.NEVER;
      }
      const kindOf = kinds[kind as keyof typeof kinds] as EditKind;
      const { off, ...rest } = edit as Record<string, unknown>;
      const { skip, ...others } = rest;
      const said = kindOf.placesAlone ? others : rest;
      if (kindOf.placesAlone && skip !== undefined && !isLineList(skip)) {
        context.addIssue({
          code: "custom",
          message: "Places to leave alone are lines, counted from 1",
          path: ["skip"],
        });
        return z.NEVER;
      }
      const left = kindOf.placesAlone && isLineList(skip) && skip.length > 0 ? { skip } : {};
      if (off !== undefined && typeof off !== "boolean") {
        context.addIssue({ code: "custom", message: "An edit is off or not: true or false", path: ["off"] });
        return z.NEVER;
      }
      const parsed = kindOf.schema.safeParse(said);
      if (!parsed.success) {
        for (const { message, path } of parsed.error.issues) context.addIssue({ code: "custom", message, path });
        return z.NEVER;
      }
      return { ...parsed.data, ...left, ...(off === true ? { off } : {}) } as Edit;
    }),
    { error: "Send a list of edits" },
  )
  .max(50, "At most 50 edits fit on one file");

const isLineList = (lines: unknown): lines is number[] =>
  Array.isArray(lines) && lines.length <= 10_000 && lines.every((line) => Number.isInteger(line) && line > 0);

/** A file as a stack of edits finds it. */
export interface EditableFile {
  /** As it came. */
  original: SeenFile;
  /** Reads it again with splices applied, as though it had been saved and opened. */
  read(splices: SpliceSet): SeenFile;
}

export interface AppliedEdits {
  /** All edits in one, on the bytes of the original. */
  splices: SpliceSet;
  /** Per edit: how many lines it puts in, takes out or changes, and in which layers. */
  edits: { kind: Edit["kind"]; changedLines: number; places: LayerSpan[] }[];
  findings: Finding[];
  /** What the whole stack wants: of two edits that speak of a layer, the later one counts. */
  planned: PlannedForTool[];
}

/**
 * Applies a stack of edits to a file, first to last; refused with field and reason if one cannot be done.
 *
 * Law: a stack gives the same bytes as saving the file after each edit, opening it again, and applying the next. Each edit is worked out
 * on the file as the edits before it left it, and the splices of all are one set.
 *
 * @param onStep hears of each edit, with the file before and behind it
 *
 * @example
 * const file = editable("G28\nM106 S255\nG1 X1 Y1 Z0.2 E1\n");
 * const applied = applyEdits([{ kind: "fan", act: "cap", percent: 50 }], file, printer);
 * applied.value.edits[0].changedLines; // 1
 */
export function applyEdits(
  edits: readonly Edit[],
  file: EditableFile,
  printer: Printer,
  name?: string,
  onStep?: (edit: Edit, before: SeenFile, after: () => SeenFile) => void,
): Result<AppliedEdits> {
  let splices = noSplices;
  let seen = file.original;
  const counts: AppliedEdits["edits"] = [];
  const findings: Finding[] = [];
  const planned: PlannedForTool[] = [];
  let isChanged = false;
  let behind: SeenFile | null = null;
  for (const [index, edit] of edits.entries()) {
    if (edit.off) {
      counts.push({ kind: edit.kind, changedLines: 0, places: [] });
      continue;
    }
    if (isChanged) seen = behind ?? file.read(splices);
    behind = null;
    isChanged = true;
    const kind = kinds[edit.kind] as unknown as EditKind<Edit>;
    const { byVolume } = seen.report;
    if (byVolume !== null && kind.writesFilament) {
      return refuse(
        `From line ${byVolume} on this file counts filament by its volume (M200), so “${kind.label}” cannot be done here. Have it written with lengths.`,
        `${index}.`,
      );
    }
    const outcome = kind.apply(edit, { file: seen, printer, name });
    if (!outcome.ok) return { ...outcome, field: `${index}.${outcome.field ?? ""}` };
    const set = withoutSkipped(outcome.value.splices, edit);
    if (packedBytes(splices) + packedBytes(set) > MOST_CHANGED_BYTES) return refuse(TOO_MUCH, `${index}.`);
    splices = compose(splices, set);
    for (const finding of outcome.value.findings) findings.push(finding);
    // What was left alone commands what it did: then the plan of it does not hold everywhere.
    if (!kinds[edit.kind].placesAlone || !edit.skip) {
      for (const wanted of outcome.value.planned ?? []) addPlanned(planned, wanted);
    }
    counts.push({ kind: edit.kind, ...whatChanges(set) });
    const before = seen;
    // Read once for who looks at it and for the edit that comes next.
    onStep?.(edit, before, () => (behind ??= file.read(splices)));
  }
  return succeed({ splices, edits: counts, findings, planned });
}

/** The kind of an edit. */
export const kindOf = ({ kind }: Edit): EditKind<Edit> => kinds[kind] as unknown as EditKind<Edit>;

/** The splices of an edit but for places that are left alone. */
function withoutSkipped(splices: SpliceSet, { kind, skip }: Edit): SpliceSet {
  if (!skip || !(kinds[kind] as EditKind).placesAlone) return splices;
  const left = new Set(skip);
  return filtered(splices, ({ line }) => !left.has(line + 1));
}

/** Kinds whose places can be left alone one by one. */
export const leavesAlone = (kind: EditKey): boolean =>
  (kinds[kind] as EditKind).placesAlone === true || (kinds[kind] as EditKind).skipsItself === true;

/** What one edit of a stack does to the file as those before it leave it: its own splices, on the bytes that `before` makes. */
export function applyOne(
  edits: readonly Edit[],
  index: number,
  file: EditableFile,
  printer: Printer,
  name?: string,
): Result<{ before: SpliceSet; own: SpliceSet }> {
  const below = applyEdits(edits.slice(0, index), file, printer, name);
  if (!below.ok) return below;
  const before = below.value.splices;
  const edit = edits[index];
  if (edit.off) return succeed({ before, own: noSplices });
  const kind = kinds[edit.kind] as unknown as EditKind<Edit>;
  const outcome = kind.apply(edit, { file: index === 0 ? file.original : file.read(before), printer, name });
  if (!outcome.ok) return outcome;
  return succeed({ before, own: withoutSkipped(outcome.value.splices, edit) });
}

/** Lays what an edit wants over what those before it want: where it says nothing, they count. */
function addPlanned(all: PlannedForTool[], { tool, planned }: PlannedForTool): void {
  let known = all.find((one) => one.tool === tool);
  if (!known) {
    known = { tool, planned: {} };
    all.push(known);
  }
  for (const key of settingKeys) {
    const wanted = planned[key];
    if (!wanted) continue;
    const before = known.planned[key];
    known.planned[key] = wanted.map((value, layer) => (Number.isNaN(value) ? (before?.[layer] ?? NaN) : value));
  }
}

/** Layers (from 0) from the first to the last. */
export type LayerSpan = [first: number, last: number];

/** More stretches of layers than this are not told apart on screen. */
const MOST_SPANS = 2000;

/** How many lines a set puts in, takes out or changes, and the layers in which it does, as stretches. */
function whatChanges(set: SpliceSet): { changedLines: number; places: LayerSpan[] } {
  const places: LayerSpan[] = [];
  let changedLines = 0;
  const splice = new SpliceCursor(set);
  while (splice.next()) {
    // A line in the place of another is one that changes.
    changedLines += Math.max(splice.linesPut, splice.removeBytes > 0 ? 1 : 0);
    const { layer } = splice;
    if (layer < 0) continue;
    const last = places[places.length - 1];
    if (last && layer >= last[0] && layer <= last[1] + 1) last[1] = Math.max(last[1], layer);
    else if (places.length < MOST_SPANS) places.push([layer, layer]);
  }
  return { changedLines, places };
}
