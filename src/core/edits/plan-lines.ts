/** A plan's changes as lines, each where its layer opens. */
import { Finding } from "../findings/finding";
import { cucharaComment } from "../gcode/comments";
import { Change } from "../heightplan/change";
import { Followed } from "../heightplan/planned";
import { freeLines, sayWithComment } from "../heightplan/weave";
import { refuse, Result, succeed } from "../result";
import { SettingKey, settingFor } from "../settings";
import { plainNumber } from "../units";
import { EditContext, printerOfFile, valueAt } from "./edit";
import { Splice } from "./splices/splice";

/** The changes of one plan on one file. */
export interface PlanLines {
  context: EditContext;
  changes: readonly Change[];
  /** Indexes of the changes in the order of the print. */
  order: readonly number[];
  /** Index of a change → its number in that order, from 1. */
  numbers: ReadonlyMap<number, number>;
  /** First layer of each change; the number of layers if it is above the piece. */
  firstLayers: readonly number[];
}

/** Lines by the layer they stand before. */
export type LinesByLayer = ReadonlyMap<number, readonly string[]>;

export interface Said {
  lines: LinesByLayer;
  findings: Finding[];
  /** What holds then: with the values that return where a change ends. */
  planned: Followed;
}

/** One setting's lines along the layers for one tool; refused with field and reason if this printer cannot be told. */
export function sayAlong(plan: PlanLines, followed: Followed, key: SettingKey, tool: number): Result<Said> {
  const { context, changes, numbers } = plan;
  const who = followed.followed[key]!;
  const values = Float64Array.from(followed.planned[key]!);
  const lines = new Map<number, string[]>();
  const findings: Finding[] = [];
  for (let layer = 0; layer < who.length; layer++) {
    const before = layer === 0 ? -1 : who[layer - 1];
    if (who[layer] === before) continue;
    if (who[layer] >= 0) {
      const place = placeOf(plan, who[layer], layer);
      const said = sayWithComment(key, changes[who[layer]].settings[key]!, place, printerOfFile(context), tool);
      if (!("lines" in said)) return refuse(said.message, `changes.${who[layer]}.settings.${key}`);
      lines.set(layer, said.lines);
      continue;
    }
    const returned = linesToReturn(plan, key, layer, numbers.get(before) ?? 0, tool);
    if ("finding" in returned) findings.push(returned.finding);
    else {
      lines.set(layer, returned.lines);
      values[layer] = returned.value;
    }
  }
  const planned = {
    planned: { ...followed.planned, [key]: values },
    followed: followed.followed,
  };
  return succeed({ lines, findings, planned });
}

/** Lines of the user's own, where their changes begin. */
export function freeLineInsertions(plan: PlanLines): LinesByLayer {
  const byLayer = new Map<number, string[]>();
  plan.changes.forEach(({ lines }, index) => {
    const layer = plan.firstLayers[index];
    if (!lines?.length || layer >= plan.context.file.report.layers.length) return;
    byLayer.set(layer, [...(byLayer.get(layer) ?? []), ...freeLines(lines, placeOf(plan, index, layer))]);
  });
  return byLayer;
}

/** Gathers lines and turns them into splices. The same line is said once at a place: one fan is every tool's. */
export function insertLines({ context }: PlanLines): { add(lines: LinesByLayer): void; splices(): Splice[] } {
  const all: [layer: number, lines: readonly string[]][] = [];
  return {
    add: (lines) => void all.push(...lines),
    splices() {
      const { layers, lineEnd } = context.file.report;
      const seen = new Set<string>();
      return all.map(([layer, lines]) => {
        const { insertByte, insertLine } = layers[layer];
        const fresh = lines.filter((line) => !seen.has(`${layer} ${line}`));
        for (const line of fresh) seen.add(`${layer} ${line}`);
        const insert = fresh.map((line) => line + lineEnd).join("");
        return { atByte: insertByte, removeBytes: 0, removeLines: 0, insert, line: insertLine - 1, layer, by: "plan" };
      });
    },
  };
}

/** Where a change begins, as its comment says it. */
function placeOf({ changes, numbers, context }: PlanLines, index: number, layer: number) {
  return { number: numbers.get(index) ?? 0, count: changes.length, fromMm: layerBottomMm(context, layer) };
}

function layerBottomMm({ file: { report } }: EditContext, layer: number): number {
  const { zMm, heightMm } = report.layers[layer];
  return zMm - heightMm;
}

/** Factors are defined by 100 %: that is where they return to in a file that never says them. */
export const FACTORS_RETURN: Partial<Record<SettingKey, number>> = { speedFactor: 100, flowFactor: 100 };

function linesToReturn(
  { context, changes }: PlanLines,
  key: SettingKey,
  layer: number,
  number: number,
  tool: number,
): { lines: string[]; value: number } | { finding: Finding } {
  const setting = settingFor(key);
  const value = valueAt(context, key, layer, tool) ?? FACTORS_RETURN[key] ?? null;
  const said = value === null ? null : setting.say(value, printerOfFile(context), tool);
  if (value === null || !said?.ok) {
    return {
      finding: {
        check: "no-value-before",
        severity: "warn",
        where: `layer ${layer + 1} at ${plainNumber(context.file.report.layers[layer].zMm)} mm`,
        message: `The file never sets the ${setting.short} itself, so there is no value to return to; the plan's value stays, in the printer too.`,
      },
    };
  }
  const what = `ends, ${setting.short} back to ${plainNumber(value, setting.decimals)}`;
  const comment = cucharaComment(number, changes.length, what, plainNumber(layerBottomMm(context, layer)));
  return { lines: said.value.map((line) => `${line} ${comment}`), value };
}
