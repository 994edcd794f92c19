/** The fan of a file: off, scaled, capped or held at least at something, between two places. The old lines stay as comments. */
import { z } from "zod";
import { refuse } from "../result";
import { settingFor } from "../settings";
import { clamp, plainNumber } from "../units";
import { EditContext, EditKind, valueAt } from "./edit";
import { fanTold, sayFan } from "./fan-lines";
import { LineSplices } from "./line-splice";
import { asComment, decodeLine } from "./line-text";
import { layersOf, PlaceFinder, Scope, scopeFields } from "./scope";

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

export const fan: EditKind<FanEdit> = {
  label: "fan",
  schema,
  keeps: ["path", "filament", "speed", "heat"],
  placesAlone: true,
  apply(edit, context) {
    const { file, printer } = context;
    if (edit.act !== "off" && edit.percent === undefined) return refuse("Say how many percent.", "percent");
    const scope = layersOf(edit, file);
    if (!scope.ok) return scope;
    const { first, last } = scope.value;
    const { layers, lineEnd, settings } = file.report;
    const splices = new LineSplices(lineEnd, this.label);
    let refusal: string | null = null;
    /** Lines that tell a fan a percentage; none, and a refusal, where this printer cannot be told. */
    const said = (percent: number, which: Fan): string[] => {
      const result = sayFan(percent, printer, which);
      if (!result.ok) refusal ??= result.message;
      return result.ok ? result.value : [];
    };
    // What runs where the scope opens is changed there, and comes back where it ends.
    const fans = fansOf(edit, context).map((which) => ({ which, own: valueAt(context, "fan", first, which.index) }));
    for (const { which, own } of fans) {
      if (own === null || changedTo(edit, own) === own) continue;
      splices.opening(
        layers[first],
        said(changedTo(edit, own), which).map((line) => `${line} ; cuchara: fan ${sayAct(edit)} from here`),
      );
    }
    const place = new PlaceFinder(file);
    file.walk(
      (line) => {
        const told = fanTold(line);
        if (!told) return;
        place.at(line.number);
        if (place.part !== "print" || place.layer < first || place.layer > last) return;
        if (edit.fan !== undefined && edit.fan !== told.index) return;
        const running = fans.find(({ which }) => which.index === told.index);
        if (running) running.own = told.percent;
        const to = changedTo(edit, told.percent);
        if (Math.abs(to - told.percent) < settingFor("fan").tolerance) return;
        const lines = said(to, told);
        splices.replace(line, edit.keepComments ? [asComment(decodeLine(line), "was"), ...lines] : lines, place.layer);
      },
      { moves: false },
    );
    if (last < layers.length - 1) {
      for (const { which, own } of fans) {
        if (own === null || changedTo(edit, own) === own) continue;
        splices.opening(
          layers[last + 1],
          said(own, which).map((line) => `${line} ; cuchara: fan back to its own`),
        );
      }
    }
    if (refusal !== null) return refuse(refusal, "act");
    const isProved = fans.some(({ which }) => which.index === 0);
    const values = settings.fan.map((value, layer) =>
      layer < first || layer > last || value === null || !isProved ? NaN : changedTo(edit, value),
    );
    return splices.outcome([], {
      nothing: nothing(edit),
      planned: [{ tool: 0, planned: { fan: Float64Array.from(values) } }],
    });
  },
};

interface Fan {
  index: number;
  /** The file calls it by its number. */
  isNamed: boolean;
}

/** The fans an edit is about: the one it names, else all that the file speaks of. */
function fansOf({ fan: named }: FanEdit, { file: { report } }: EditContext): Fan[] {
  if (named !== undefined) return [{ index: named, isNamed: true }];
  const spoken = new Set([
    0,
    ...report.start.filter(({ settings }) => settings.fan !== undefined).map(({ tool }) => tool),
  ]);
  for (const { key, tool } of report.changes) if (key === "fan") spoken.add(tool);
  return [...spoken].map((index) => ({ index, isNamed: index > 0 }));
}

function changedTo({ act, percent = 0 }: FanEdit, value: number): number {
  if (act === "off") return 0;
  if (act === "scale") return clamp((value * percent) / 100, 0, 100);
  if (act === "cap") return Math.min(value, percent);
  return value > 0 ? Math.max(value, Math.min(100, percent)) : value;
}

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
