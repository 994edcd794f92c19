import { z } from "zod";
import { Finding } from "../checks/finding";
import { cucharaComment } from "../gcode/comments";
import { Change, changesSchema, followChanges, Followed, Place } from "../heightplan/planned";
import { freeLines, sayWithComment } from "../heightplan/weave";
import { refuse, Refusal, succeed } from "../result";
import { SettingKey, settingFor, settingKeys } from "../settings";
import { plainNumber } from "../units";
import { Printer } from "../shelf/printer";
import { concernsTool, EditContext, EditKind, ownValueAt, PlannedForTool } from "./edit";
import { changeRetractions } from "./retraction";
import { Splice } from "./splice";

export interface HeightPlanEdit {
  kind: "height-plan";
  changes: Change[];
}

const schema: z.ZodType<HeightPlanEdit> = z.strictObject({ kind: z.literal("height-plan"), changes: changesSchema });

/** Puts a plan's changes into the file: each line stands where its layer opens, before its first travel. */
export const heightPlan: EditKind<HeightPlanEdit> = {
  schema,
  apply({ changes }, context) {
    const { report } = context;
    const nothing = changes.findIndex(({ settings, lines }) => Object.keys(settings).length === 0 && !lines?.length);
    if (nothing >= 0) {
      return refuse(`Change ${nothing + 1} sets nothing: give it a value.`, `changes.${nothing}.settings`);
    }
    const wrongTool = changes.findIndex(({ tool = 0 }) => tool >= context.printer.tools);
    if (wrongTool >= 0) {
      const { name, tools } = context.printer;
      return refuse(
        `Change ${wrongTool + 1} is for tool ${changes[wrongTool].tool}; ${name} has ${tools === 1 ? "one tool, number 0" : `${tools} tools, counted from 0`}.`,
        `changes.${wrongTool}.tool`,
      );
    }
    const { firstLayers } = followChanges(changes, report.layers);
    const order = changes.map((_, i) => i).sort((a, b) => firstLayers[a] - firstLayers[b] || a - b);
    const numbers = new Map(order.map((index, rank) => [index, rank + 1]));
    const woven: Woven = {
      context,
      changes,
      numbers,
      splices: [],
      findings: beyondPiece(context, changes, order, numbers, firstLayers),
    };
    const planned: PlannedForTool[] = [];
    for (const tool of [...new Set(changes.map((change) => change.tool ?? 0))].sort()) {
      const own = changes.map((change) => ((change.tool ?? 0) === tool ? change : { ...change, settings: {} }));
      const followed = followChanges(own, report.layers);
      planned.push({ tool, planned: followed.planned });
      for (const key of settingKeys) {
        if (!followed.followed[key]) continue;
        const setting = settingFor(key);
        const inside = setting.insideMoves?.(printerOfFile(context)) ?? false;
        const failed = inside ? null : weaveLines(woven, followed, key, tool);
        if (failed) return failed;
        foreignChanges(woven, followed.followed[key], key, tool);
      }
      const failed = weaveInsideMoves(woven, followed, tool);
      if (failed) return failed;
    }
    weaveFreeLines(woven, firstLayers);
    return succeed({ splices: woven.splices, findings: woven.findings, planned });
  },
};

/** All that is gathered while one edit is applied. */
interface Woven {
  context: EditContext;
  changes: readonly Change[];
  /** Index of a change → its number in the order of the print. */
  numbers: ReadonlyMap<number, number>;
  splices: Splice[];
  findings: Finding[];
}

/** The printer as this file uses it: whether the firmware draws back is the file's own business. */
function printerOfFile({ printer, retractions }: EditContext): Printer {
  if (!retractions || (retractions.byFirmware === 0 && retractions.lines.length === 0)) return printer;
  return { ...printer, firmwareRetraction: retractions.byFirmware > 0 };
}

function beyondPiece(
  { report: { layers } }: EditContext,
  changes: readonly Change[],
  order: number[],
  numbers: ReadonlyMap<number, number>,
  firstLayers: number[],
): Finding[] {
  const unprinted = order.filter((index) => firstLayers[index] >= layers.length);
  if (unprinted.length === 0) return [];
  const end = `the last layer (${layers.length} layers, ${plainNumber(layers.at(-1)?.zMm ?? 0)} mm)`;
  const places = unprinted.map((index) => sayPlace(changes[index].from));
  return [
    {
      check: "beyond-piece",
      severity: "warn",
      where: `change${unprinted.length > 1 ? "s" : ""} ${unprinted.map((index) => numbers.get(index)).join(", ")}`,
      message:
        unprinted.length === 1
          ? `Nothing of it is printed: ${places[0]} is above ${end}, or it ends before it starts.`
          : `Nothing of them is printed: ${places.slice(0, 4).join(", ")}${places.length > 4 ? " …" : ""} are above ${end}, or they end before they start.`,
    },
  ];
}

/** One setting's lines along the layers. */
function weaveLines(woven: Woven, { planned, followed }: Followed, key: SettingKey, tool: number): Refusal | null {
  const { context, changes, numbers } = woven;
  const { layers } = context.report;
  const who = followed[key]!;
  for (let layer = 0; layer < layers.length; layer++) {
    const before = layer === 0 ? -1 : who[layer - 1];
    if (who[layer] === before) continue;
    const place = { number: numbers.get(who[layer]) ?? 0, count: changes.length, fromMm: layerBottom(context, layer) };
    let lines: string[];
    if (who[layer] >= 0) {
      const said = sayWithComment(key, changes[who[layer]].settings[key]!, place, printerOfFile(context), tool);
      if (!("lines" in said)) return refuse(said.message, `changes.${who[layer]}.settings.${key}`);
      lines = said.lines;
    } else {
      const returned = linesToReturn(context, key, layer, numbers.get(before) ?? 0, changes.length, tool);
      if ("finding" in returned) {
        woven.findings.push(returned.finding);
        continue;
      }
      lines = returned.lines;
      planned[key]![layer] = returned.value;
    }
    woven.splices.push(insertion(context, layer, lines));
  }
  return null;
}

/** Settings that live inside the file's moves: its own lines are rewritten. */
function weaveInsideMoves(
  { context, findings, splices }: Woven,
  { planned, followed }: Followed,
  tool: number,
): Refusal | null {
  const inside = (key: SettingKey) =>
    planned[key] !== undefined && settingFor(key).insideMoves?.(printerOfFile(context));
  const field = (key: SettingKey) =>
    `changes.${Math.max(0, followed[key]!.find((index) => index >= 0) ?? 0)}.settings.${key}`;
  if (inside("printSpeed")) {
    return refuse(
      "A sliced file has a speed of its own for walls, fill and strands over air: use the speed factor, which scales them all.",
      field("printSpeed"),
    );
  }
  const key = (["retractionLength", "retractionSpeed"] as const).find(inside);
  if (!key) return null;
  const { retractions, removedLines } = context;
  if (!retractions) {
    return refuse("This file was opened before its retractions were kept: open it once more.", field(key));
  }
  if (!retractions.lines.some(({ fedMm }) => fedMm < 0)) {
    const why = retractions.wiping ? "draws the filament back only while it moves" : "never draws the filament back";
    return refuse(`This file ${why}, so there is no retraction to change.`, field(key));
  }
  const wishes = { lengthMm: planned.retractionLength, speedMmS: planned.retractionSpeed };
  const changed = changeRetractions(retractions, wishes, removedLines, tool);
  splices.push(...changed.splices);
  if (changed.withoutFeed > 0) {
    findings.push({
      check: "retraction-unchanged",
      severity: "warn",
      where: "whole file",
      message: `${changed.withoutFeed} lines draw back at the feed of the move before them: their speed is left as it is.`,
    });
  }
  if (retractions.wiping > 0) {
    findings.push({
      check: "retraction-unchanged",
      severity: "warn",
      where: "whole file",
      message: `${retractions.wiping} lines draw back while they move (wiping): they are left as they are.`,
    });
  }
  return null;
}

function weaveFreeLines({ context, changes, numbers, splices }: Woven, firstLayers: number[]): void {
  changes.forEach(({ lines }, index) => {
    const layer = firstLayers[index];
    if (!lines?.length || layer >= context.report.layers.length) return;
    const place = { number: numbers.get(index) ?? 0, count: changes.length, fromMm: layerBottom(context, layer) };
    splices.push(insertion(context, layer, freeLines(lines, place)));
  });
}

/** Points at changes of the file itself that would undo the plan. */
function foreignChanges({ context, findings }: Woven, who: Int32Array, key: SettingKey, tool: number): void {
  const { report, removedLines } = context;
  const last = report.layers.length - 1;
  const foreign = report.changes.filter(
    (change) =>
      change.key === key &&
      !change.ours &&
      concernsTool(report, change, tool) &&
      !removedLines.has(change.line) &&
      change.layer >= 0 &&
      change.layer <= last &&
      (who[change.layer] >= 0 || (change.within && who[Math.min(change.layer + 1, last)] >= 0)),
  );
  if (foreign.length === 0) return;
  findings.push({
    check: "foreign-change",
    severity: "warn",
    where: `line ${foreign[0].line + 1}`,
    message: `The file changes the ${settingFor(key).short} itself in ${foreign.length === 1 ? "one place" : `${foreign.length} places`} where the plan holds, and so undoes it.`,
    mend: { label: "Take those lines out", edit: { kind: "lift-out", what: "foreign", settings: [key] } },
  });
}

function insertion({ report }: EditContext, layer: number, lines: string[]): Splice {
  return {
    atByte: report.layers[layer].insertByte,
    removeBytes: 0,
    insert: lines.map((line) => line + report.lineEnd).join(""),
    line: report.layers[layer].insertLine - 1,
    layer,
  };
}

function layerBottom({ report }: EditContext, layer: number): number {
  const { zMm, heightMm } = report.layers[layer];
  return zMm - heightMm;
}

function linesToReturn(
  context: EditContext,
  key: SettingKey,
  layer: number,
  number: number,
  count: number,
  tool: number,
): { lines: string[]; value: number } | { finding: Finding } {
  const setting = settingFor(key);
  const value = ownValueAt(context, key, layer, tool);
  const said = value === null ? null : setting.say(value, printerOfFile(context), tool);
  if (value === null || !said?.ok) {
    return {
      finding: {
        check: "no-value-before",
        severity: "warn",
        where: `layer ${layer + 1} at ${plainNumber(context.report.layers[layer].zMm)} mm`,
        message: `The file never sets the ${setting.short} itself, so there is no value to return to; the plan's value stays.`,
      },
    };
  }
  const what = `ends, ${setting.short} back to ${plainNumber(value, setting.decimals)}`;
  const comment = cucharaComment(number, count, what, plainNumber(layerBottom(context, layer)));
  return { lines: said.value.map((line) => `${line} ${comment}`), value };
}

/** `12.4 mm`, or `layer 20 counted from 1`. */
export function sayPlace(place: Place): string {
  return "heightMm" in place
    ? `${plainNumber(place.heightMm)} mm`
    : `layer ${place.layer} counted from ${place.countsFrom}`;
}
