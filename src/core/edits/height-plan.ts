import { z } from "zod";
import { Finding } from "../checks/finding";
import { cucharaComment } from "../gcode/comments";
import { Change, changesSchema, followChanges, Place } from "../heightplan/planned";
import { sayWithComment } from "../heightplan/weave";
import { refuse, succeed } from "../result";
import { SettingKey, settingFor, settingKeys } from "../settings";
import { plainNumber } from "../units";
import { EditContext, EditKind, ownValueAt } from "./edit";
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
    const { report, printer } = context;
    const { layers } = report;
    const findings: Finding[] = [];
    const { planned, followed, firstLayers } = followChanges(changes, layers);
    const order = changes.map((_, i) => i).sort((a, b) => firstLayers[a] - firstLayers[b] || a - b);
    const numberOf = new Map(order.map((index, rank) => [index, rank + 1]));

    const nothing = changes.findIndex(({ settings }) => Object.keys(settings).length === 0);
    if (nothing >= 0) {
      return refuse(`Change ${nothing + 1} sets nothing: give it a value.`, `changes.${nothing}.settings`);
    }
    const unprinted = order.filter((index) => firstLayers[index] >= layers.length);
    if (unprinted.length > 0) {
      const top = layers.at(-1)?.zMm ?? 0;
      const end = `the last layer (${layers.length} layers, ${plainNumber(top)} mm)`;
      const places = unprinted.map((index) => sayPlace(changes[index].from));
      findings.push({
        check: "beyond-piece",
        severity: "warn",
        where: `change${unprinted.length > 1 ? "s" : ""} ${unprinted.map((index) => numberOf.get(index)).join(", ")}`,
        message:
          unprinted.length === 1
            ? `Nothing of it is printed: ${places[0]} is above ${end}, or it ends before it starts.`
            : `Nothing of them is printed: ${places.slice(0, 4).join(", ")}${places.length > 4 ? " …" : ""} are above ${end}, or they end before they start.`,
      });
    }

    const splices: Splice[] = [];
    for (const key of settingKeys) {
      const who = followed[key];
      if (!who) continue;
      for (let layer = 0; layer < layers.length; layer++) {
        const before = layer === 0 ? -1 : who[layer - 1];
        if (who[layer] === before) continue;
        const place = {
          number: numberOf.get(who[layer]) ?? 0,
          count: changes.length,
          fromMm: layerBottom(context, layer),
        };
        let lines: string[];
        if (who[layer] >= 0) {
          const said = sayWithComment(key, changes[who[layer]].settings[key]!, place, printer, 0);
          if (!("lines" in said)) return refuse(said.message, `changes.${who[layer]}.settings.${key}`);
          lines = said.lines;
        } else {
          const returned = linesToReturn(context, key, layer, numberOf.get(before) ?? 0, changes.length);
          if ("finding" in returned) {
            findings.push(returned.finding);
            continue;
          }
          lines = returned.lines;
          (planned[key] as Float64Array)[layer] = returned.value;
        }
        splices.push({
          atByte: layers[layer].insertByte,
          removeBytes: 0,
          insert: lines.map((line) => line + report.lineEnd).join(""),
          line: layers[layer].insertLine - 1,
        });
      }
      const foreign = report.changes.filter(
        (change) =>
          change.key === key &&
          !change.ours &&
          !context.removedLines.has(change.line) &&
          change.layer >= 0 &&
          change.layer < layers.length &&
          (who[change.layer] >= 0 || (change.within && who[Math.min(change.layer + 1, layers.length - 1)] >= 0)),
      );
      if (foreign.length > 0) {
        findings.push({
          check: "foreign-change",
          severity: "warn",
          where: `line ${foreign[0].line + 1}`,
          message: `The file changes the ${settingFor(key).short} itself in ${foreign.length === 1 ? "one place" : `${foreign.length} places`} where the plan holds, and so undoes it.`,
          mend: { label: "Take those lines out", edit: { kind: "lift-out", what: "foreign", settings: [key] } },
        });
      }
    }
    return succeed({ splices, findings, planned });
  },
};

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
): { lines: string[]; value: number } | { finding: Finding } {
  const setting = settingFor(key);
  const value = ownValueAt(context, key, layer);
  const said = value === null ? null : setting.say(value, context.printer, 0);
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
