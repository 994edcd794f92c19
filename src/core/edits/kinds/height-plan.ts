/**
 * A plan laid over a file. Four things one after the other: **following** the changes along the layers (`heightplan/planned`),
 * **saying** them as lines (`plan-lines`) or **rewriting** the file's own where a setting lives inside the moves (`plan-inside`),
 * **splicing** what comes of it, and **finding** what gets in its way (`plan-findings`).
 */
import { z } from "zod";
import { Change } from "../../heightplan/change";
import { changesSchema } from "../../heightplan/change-schema";
import { readingOf } from "../../machine/reading";
import { followChanges } from "../../heightplan/planned";
import { refuse, Refusal, succeed } from "../../result";
import { checkWhole } from "../../settings/whole";
import { settingFor, SettingKey, settingKeys } from "../../settings";
import { bitOf, bitsOf } from "../../trace/fields";
import { onlySet, SaidOver, setBy, WAY } from "../asked";
import { WayTimes } from "../way-times";
import { EditContext, EditKind, PlannedForTool, printerOfFile, valueAt } from "../edit";
import { beyondPiece, foreignChanges } from "../plan-findings";
import { rewriteInside } from "../plan-inside";
import { FACTORS_RETURN, freeLineInsertions, insertLines, PlanLines, sayAlong } from "../plan-lines";
import { spliceSet } from "../splices/gather";
import { Splice } from "../splices/splice";

export interface HeightPlanEdit {
  kind: "height-plan";
  changes: Change[];
}

const schema: z.ZodType<HeightPlanEdit> = z.strictObject({ kind: z.literal("height-plan"), changes: changesSchema });

/** Puts a plan's changes into the file: each line stands where its layer opens, before its first travel. */
export const heightPlan: EditKind<HeightPlanEdit> = {
  label: "plan",
  schema,
  asks({ changes }, context) {
    const { layers } = context.file.report;
    const over = new SaidOver();
    const said = toolsOf(changes, context).flatMap((tool) => saidByLayer(changes, tool, context));
    const { firstLayers } = followChanges(changes, layers);
    const travels = travelFeeds(changes, context);
    const times = travels && new WayTimes(context.file);
    let open = 0;
    let at = -1;
    /** What of a layer is not asked about: what is rewritten inside its moves, and what lines of the user's own do. */
    const openIn = new Int32Array(layers.length + 1);
    const known = travels ? bitOf.travelFeed : 0;
    for (const { layer, fields } of said) openIn[layer] |= fields & ~known;
    changes.forEach(({ lines }, index) => {
      if (lines?.length && !onlySet(lines, readingOf(context.printer))) openIn[firstLayers[index]] |= WAY;
    });
    const own = changes.flatMap(({ lines = [] }) => setBy(lines, readingOf(context.printer)));
    return {
      sets: [...said.flatMap(({ set }) => set), ...own].map(({ slot }) => slot),
      bead(bead) {
        const isOpening = bead.layer > at;
        for (; at < bead.layer; at++) {
          const layer = at + 1;
          for (const { layer: from, set } of said) {
            if (from === layer) for (const { slot, value } of set) over.say(slot, value, layers[layer].insertLine - 1);
          }
          changes.forEach(({ lines }, index) => {
            if (!lines || firstLayers[index] !== layer) return;
            for (const { slot, value } of setBy(lines, readingOf(context.printer), bead.tool))
              over.say(slot, value, layers[layer].insertLine - 1);
          });
        }
        times?.retime(bead, (layer, feedMmS) => {
          const wanted = layer < 0 ? NaN : travels![layer];
          return Number.isNaN(wanted) ? feedMmS : wanted;
        });
        over.lay(bead);
        open = bead.layer < 0 ? 0 : openIn[bead.layer] | (isOpening && bead.layer > 0 ? openIn[bead.layer - 1] : 0);
        // The way into a layer is partly before its lines.
        if (isOpening && said.some(({ layer, set }) => layer === bead.layer && set.length > 0)) open |= OPENING;
        bead.open |= open;
        return true;
      },
      end(end) {
        for (const { layer, set } of said) if (layer > at) for (const { slot, value } of set) over.say(slot, value, 0);
        over.lay(end);
        end.open |= openIn[layers.length - 1] | bitsOf("travelFeed", "drawnFeed");
      },
    };
  },
  apply({ changes }, context) {
    const unfit = unfitChange(changes, context);
    if (unfit) return unfit;
    const plan = planLines(changes, context);
    const planned: PlannedForTool[] = [];
    let findings = beyondPiece(plan);
    const inserted = insertLines(plan);
    let splices: Splice[] = [];
    for (const tool of toolsOf(changes, context)) {
      const followed = followChanges(changesOf(changes, tool, context), context.file.report.layers);
      const inside: SettingKey[] = [];
      for (const key of settingKeys) {
        if (!followed.followed[key]) continue;
        if (settingFor(key).inside?.on(printerOfFile(context))) {
          inside.push(key);
          continue;
        }
        const said = sayAlong(plan, followed, key, tool);
        if (!said.ok) return said;
        inserted.add(said.value.lines);
        findings = [
          ...findings,
          ...said.value.findings,
          ...foreignChanges(plan, said.value.planned.followed[key]!, key, tool),
        ];
        followed.planned[key] = said.value.planned.planned[key];
      }
      const rewritten = rewriteInside(plan, followed, inside, tool);
      if (!rewritten.ok) return rewritten;
      splices = [...splices, ...rewritten.value.splices];
      findings = [...findings, ...rewritten.value.findings];
      planned.push({ tool, planned: followed.planned });
    }
    inserted.add(freeLineInsertions(plan));
    const set = spliceSet([...inserted.splices(), ...splices]);
    return set.ok ? succeed({ splices: set.value, findings, planned }) : set;
  },
};

function unfitChange(changes: readonly Change[], { printer }: EditContext): Refusal | null {
  const nothing = changes.findIndex(({ settings, lines }) => Object.keys(settings).length === 0 && !lines?.length);
  if (nothing >= 0) {
    return refuse(`Change ${nothing + 1} sets nothing: give it a value.`, `changes.${nothing}.settings`);
  }
  for (const [i, { settings }] of changes.entries()) {
    const whole = checkWhole(settings);
    if (!whole.ok) return refuse(`Change ${i + 1}: ${whole.message}`, `changes.${i}.settings.${whole.field}`);
  }
  const wrongTool = changes.findIndex(({ tool = 0 }) => tool >= printer.tools);
  if (wrongTool < 0) return null;
  const { name, tools } = printer;
  return refuse(
    `Change ${wrongTool + 1} is for tool ${changes[wrongTool].tool}; ${name} has ${tools === 1 ? "one tool, number 0" : `${tools} tools, counted from 0`}.`,
    `changes.${wrongTool}.tool`,
  );
}

/** Feeds of the ways across the bed as a plan wants them, by layer; null where it does not speak of them, or of one tool alone. */
function travelFeeds(changes: readonly Change[], context: EditContext): Float64Array | null {
  const speaking = toolsOf(changes, context).flatMap((tool) => {
    const { planned } = followChanges(changesOf(changes, tool, context), context.file.report.layers);
    return planned.travelSpeed ? [planned.travelSpeed] : [];
  });
  return context.file.report.filament.length === 1 && speaking.length === 1 ? speaking[0] : null;
}

/** What the speed factor changes on the way over which it is said. */
const OPENING = bitsOf("travelFeed", "drawnFeed");

/** What a plan says for one tool: by layer, what is set there, and the fields that are rewritten inside its moves. */
function saidByLayer(
  changes: readonly Change[],
  tool: number,
  context: EditContext,
): { layer: number; set: { slot: number; value: number }[]; fields: number }[] {
  const { layers } = context.file.report;
  const printer = printerOfFile(context);
  const { planned, followed } = followChanges(changesOf(changes, tool, context), layers);
  return settingKeys.flatMap((key) => {
    const [values, who] = [planned[key], followed[key]];
    if (!values || !who) return [];
    const setting = settingFor(key);
    const { inside } = setting;
    if (inside?.on(printer)) {
      return layers.flatMap(({ index }) =>
        Number.isNaN(values[index]) ? [] : [{ layer: index, set: [], fields: bitsOf(...inside.seenIn) }],
      );
    }
    return layers.flatMap(({ index }) => {
      if (who[index] === (index === 0 ? -1 : who[index - 1])) return [];
      const value = who[index] >= 0 ? values[index] : (valueAt(context, key, index, tool) ?? FACTORS_RETURN[key]);
      const said = value === undefined ? null : setting.say(value, printer, tool);
      return said?.ok ? [{ layer: index, set: setBy(said.value, readingOf(context.printer), tool), fields: 0 }] : [];
    });
  });
}

/** The changes with the numbers they have in the order of the print. */
function planLines(changes: readonly Change[], context: EditContext): PlanLines {
  const { firstLayers } = followChanges(changes, context.file.report.layers);
  const order = changes.map((_, i) => i).sort((a, b) => firstLayers[a] - firstLayers[b] || a - b);
  const numbers = new Map(order.map((index, rank) => [index, rank + 1]));
  return { context, changes, order, numbers, firstLayers };
}

/** Tools the changes speak of: those they name, and for a change that names none every tool that lays anything from there on. */
function toolsOf(changes: readonly Change[], { file: { report }, printer }: EditContext): number[] {
  const tools = new Set<number>();
  for (const { tool } of changes) {
    if (tool !== undefined) tools.add(tool);
    else {
      const laying = report.filament.filter((one) => one.tool < printer.tools);
      for (const one of laying.length > 0 ? laying : [{ tool: 0 }]) tools.add(one.tool);
    }
  }
  return [...tools].sort((a, b) => a - b);
}

/**
 * The changes as one tool takes them, indexes unchanged. A change that names no tool holds for every tool that still lays material
 * where it begins, if every tool has a value of its own of that setting; else the first tool speaks for the printer.
 */
function changesOf(changes: readonly Change[], tool: number, context: EditContext): Change[] {
  const { report } = context.file;
  const { firstLayers } = followChanges(changes, report.layers);
  const lowest = report.filament[0]?.tool ?? 0;
  const lastLayer = report.filament.find((one) => one.tool === tool)?.lastLayer ?? -1;
  const several = report.filament.length > 1;
  return changes.map((change, index) => {
    if (change.tool !== undefined) return change.tool === tool ? change : { ...change, settings: {} };
    const settings = Object.fromEntries(
      Object.entries(change.settings).filter(([key]) => {
        const { perTool, inside } = settingFor(key as SettingKey);
        if (!several) return tool === lowest;
        return perTool || inside ? lastLayer >= firstLayers[index] : tool === lowest;
      }),
    );
    return { ...change, settings };
  });
}
