/** The fan of a file: off, scaled, capped or held at least at something, between two places. The old lines stay as comments. */
import { z } from "zod";
import { refuse, succeed } from "../result";
import { settingFor } from "../settings";
import { clamp, plainNumber } from "../units";
import { EditContext, EditKind, valueAt } from "./edit";
import { openingLayer, replaced } from "./line-splice";
import { asComment, decodeLine } from "./line-text";
import { layersOf, PlaceFinder, Scope, scopeFields } from "./scope";
import type { Splice } from "./splice";

const acts = ["off", "scale", "cap", "floor"] as const;

export interface FanEdit extends Scope {
  kind: "fan";
  act: (typeof acts)[number];
  /** What it is scaled to, capped at or held at, %. */
  percent?: number;
  /** Which fan, by its number; all of them if left out. */
  fan?: number;
  keepComments: boolean;
}

const schema = z.strictObject({
  kind: z.literal("fan"),
  act: z.enum(acts, { error: `The fan is ${acts.join(", ")}` }),
  percent: z.number({ error: "A percentage is a number" }).min(0, "At least 0 %").max(500, "At most 500 %").optional(),
  fan: z.int({ error: "A fan's number is whole" }).min(0, "Fans count from 0").max(15, "At most 16 fans").optional(),
  keepComments: z.boolean().default(true),
  ...scopeFields,
}) as unknown as z.ZodType<FanEdit>;

const [M, P, S] = [77, 80, 83];

export const fan: EditKind<FanEdit> = {
  label: "fan",
  schema,
  apply(edit, context) {
    const { file } = context;
    if (edit.act !== "off" && edit.percent === undefined) return refuse("Say how many percent.", "percent");
    const scope = layersOf(edit, file);
    if (!scope.ok) return scope;
    const { first, last } = scope.value;
    const { layers, lineEnd } = file.report;
    const where = { lineEnd, by: this.label };
    const splices: Splice[] = [];
    // What runs where the scope opens is changed there, and comes back where it ends.
    const atStart = valueAt(context, "fan", first, 0);
    const changed = atStart === null ? null : changedTo(edit, atStart);
    if (changed !== null && changed !== atStart && edit.fan === undefined) {
      const said = sayFan(changed, context);
      if (!said.ok) return refuse(said.message, "act");
      splices.push(
        openingLayer(
          layers[first],
          said.value.map((line) => `${line} ; cuchara: fan ${sayAct(edit)} from here`),
          where,
        ),
      );
    }
    const place = new PlaceFinder(file);
    let refusal: string | null = null;
    /** What the file itself has in force, as the lines are passed. */
    let own = atStart;
    file.walk(
      (line) => {
        const code = line.letters[0] === M ? line.values[0] : NaN;
        if (line.commandCount === 0 || (code !== 106 && code !== 107)) return;
        place.at(line.number);
        const index = Number.isNaN(line.value(P)) ? 0 : line.value(P);
        if (place.part !== "print" || place.layer < first || place.layer > last) return;
        if (edit.fan !== undefined && edit.fan !== index) return;
        const duty = code === 107 ? 0 : Number.isNaN(line.value(S)) ? 255 : line.value(S);
        const percent = (clamp(duty, 0, 255) * 100) / 255;
        if (index === 0) own = percent;
        const to = changedTo(edit, percent);
        if (Math.abs(to - percent) < 0.2) return;
        const said = sayFan(to, context);
        if (!said.ok) {
          refusal ??= said.message;
          return;
        }
        const text = decodeLine(line);
        const lines = said.value.map((one) => (line.has(P) ? `${one} P${index}` : one));
        const splice = replaced(line, edit.keepComments ? [asComment(text, "was"), ...lines] : lines, {
          ...where,
          layer: place.layer,
        });
        if (splice) splices.push(splice);
      },
      { moves: false },
    );
    if (refusal !== null) return refuse(refusal, "act");
    if (last < layers.length - 1 && own !== null && changedTo(edit, own) !== own && edit.fan === undefined) {
      const said = sayFan(own, context);
      if (!said.ok) return refuse(said.message, "act");
      splices.push(
        openingLayer(
          layers[last + 1],
          said.value.map((line) => `${line} ; cuchara: fan back to its own`),
          where,
        ),
      );
    }
    const values = file.report.settings.fan.map((value, layer) =>
      layer < first || layer > last || value === null || edit.fan !== undefined ? NaN : changedTo(edit, value),
    );
    const planned = [{ tool: 0, planned: { fan: Float64Array.from(values) } }];
    return succeed({ splices, findings: splices.length > 0 ? [] : [nothing(edit)], planned });
  },
};

function changedTo({ act, percent = 0 }: FanEdit, value: number): number {
  if (act === "off") return 0;
  if (act === "scale") return clamp((value * percent) / 100, 0, 100);
  if (act === "cap") return Math.min(value, percent);
  return value > 0 ? Math.max(value, Math.min(100, percent)) : value;
}

const sayFan = (percent: number, { printer }: EditContext) => settingFor("fan").say(percent, printer, 0);

function sayAct({ act, percent = 0 }: FanEdit): string {
  if (act === "off") return "off";
  if (act === "scale") return `× ${plainNumber(percent / 100, 2)}`;
  return `${act === "cap" ? "at most" : "at least"} ${plainNumber(percent)} %`;
}

const nothing = (edit: FanEdit) => ({
  check: "fan-unchanged",
  severity: "note" as const,
  where: "whole file",
  message: `No line of the file sets the fan there to anything that “${sayAct(edit)}” would change.`,
});
