/** The fan of a file: off, scaled, capped or held at least at something, between two places. The old lines stay as comments. */
import { z } from "zod";
import { EventKind } from "../../machine/event-kind";
import { readingOf } from "../../machine/reading";
import { refuse } from "../../result";
import { settingFor } from "../../settings";
import type { Bead } from "../../trace/bead";
import { bitOf, slotOf } from "../../trace/fields";
import { clamp, plainNumber } from "../../units";
import { leftAlone, setBy } from "../asked";
import { EditContext, EditKind, valueAt } from "../edit";
import { fanTold, sayFan } from "../fan-lines";
import { LineSplices } from "../line-splice";
import { asComment, decodeLine } from "../line-text";
import { layersOf, PlaceFinder, Scope, scopeFields } from "../scope";

const T = 84;
const MOST_FANS = 16;
const MOST_DUTY = 255;

const acts = ["off", "scale", "cap", "floor"] as const;

export interface FanEdit extends Scope {
  kind: "fan";
  act: (typeof acts)[number];
  /** What it is scaled to, capped at or held at, %. */
  percent?: number;
  /** Which fan, by its number; all of them if left out. */
  fan?: number;
  keepComments: boolean;
  /** Lines (from 1) that are left as they are. */
  skip?: number[];
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
  scopeIn: "edit",
  schema,
  placesAlone: true,
  asks(edit, { file, printer }) {
    const scope = layersOf(edit, file);
    if (!scope.ok) return {};
    const reading = readingOf(printer);
    const slots = Array.from({ length: MOST_FANS }, (_, index) => ({ index, slot: slotOf(EventKind.fan, index) }));
    const meant = slots.filter(({ index }) => edit.fan === undefined || edit.fan === index);
    const known = new Map<string, number>();
    /** The duty a fan is told for a percentage, in this printer's own words. */
    const dutyOf = (percent: number, index: number) => {
      const key = `${index} ${percent}`;
      let duty = known.get(key);
      if (duty === undefined) {
        const said = sayFan(percent, printer, { index, isNamed: index > 0 || reading.fanPerTool });
        duty = said.ok
          ? (setBy(said.value, reading).find(({ slot }) => slot === slotOf(EventKind.fan, index))?.value ?? NaN)
          : NaN;
        known.set(key, duty);
      }
      return duty;
    };
    const open = leftAlone(edit.skip, "fan");
    let last = { layer: -1, line: -1 };
    const change = (bead: Bead) => {
      for (const { index, slot } of meant) {
        const own = (bead.set[slot] * 100) / MOST_DUTY;
        if (Number.isNaN(own)) continue;
        const to = changedTo(edit, own);
        if (to === own) continue;
        if (Math.abs(to - own) < settingFor("fan").tolerance) bead.open |= bitOf.fan;
        else bead.set[slot] = dutyOf(to, index);
      }
    };
    return {
      bead(bead) {
        bead.open |= open;
        last = { layer: bead.layer, line: bead.line };
        if (bead.layer >= 0 && scope.value.holds(bead.layer)) change(bead);
        return true;
      },
      // What runs in the last layer runs on until the end says something.
      end(end) {
        end.open |= open;
        const own = meant.map(({ slot }) => ({ slot, duty: end.set[slot], at: end.saidAt[slot] }));
        if (scope.value.holds(last.layer)) change(end);
        for (const { slot, duty, at } of own) if (at > last.line) end.set[slot] = duty;
      },
    };
  },
  apply(edit, context) {
    const { file, printer } = context;
    if (edit.act !== "off" && edit.percent === undefined) return refuse("Say how many percent.", "percent");
    const scope = layersOf(edit, file);
    if (!scope.ok) return scope;
    const { spans, holds } = scope.value;
    const { layers, lineEnd, settings } = file.report;
    const splices = new LineSplices(lineEnd, this.label);
    let refusal: string | null = null;
    /** Lines that tell a fan a percentage; none, and a refusal, where this printer cannot be told. */
    const said = (percent: number, which: Fan): string[] => {
      const result = sayFan(percent, printer, which);
      if (!result.ok) refusal ??= result.message;
      return result.ok ? result.value : [];
    };
    // What runs where a stretch of layers opens is changed there, and comes back where it ends.
    const fans = fansOf(edit, context);
    for (const which of fans) {
      for (const { first, last } of spans) {
        const [own, after] = [first, last + 1].map((layer) => valueAt(context, "fan", layer, which.index));
        if (own !== null && changedTo(edit, own) !== own) {
          splices.opening(
            layers[first],
            said(changedTo(edit, own), which).map((line) => `${line} ; cuchara: fan ${sayAct(edit)} from here`),
          );
        }
        if (last + 1 < layers.length && after !== null && changedTo(edit, after) !== after) {
          splices.opening(
            layers[last + 1],
            said(after, which).map((line) => `${line} ; cuchara: fan back to its own`),
          );
        }
      }
    }
    const place = new PlaceFinder(file);
    const reading = readingOf(printer);
    let tool = 0;
    file.walk(
      (line) => {
        if (line.commandCount > 0 && line.letters[0] === T && line.values[0] >= 0) tool = line.values[0];
        const told = fanTold(line, reading, tool);
        if (!told) return;
        place.at(line.number);
        if (place.part !== "print" || !holds(place.layer)) return;
        if (edit.fan !== undefined && edit.fan !== told.index) return;
        const to = changedTo(edit, told.percent);
        if (Math.abs(to - told.percent) < settingFor("fan").tolerance) return;
        const lines = said(to, told);
        splices.replace(line, edit.keepComments ? [asComment(decodeLine(line), "was"), ...lines] : lines, place.layer);
      },
      { moves: false },
    );
    if (refusal !== null) return refuse(refusal, "act");
    const isProved = fans.some(({ index }) => index === 0);
    const values = settings.fan.map((value, layer) =>
      !holds(layer) || value === null || !isProved ? NaN : changedTo(edit, value),
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
function fansOf({ fan: named }: FanEdit, { file: { report }, printer }: EditContext): Fan[] {
  if (named !== undefined) return [{ index: named, isNamed: true }];
  // Without its number the fan of the tool that is in would be meant, whichever that is there.
  const { fanPerTool } = readingOf(printer);
  const spoken = new Set([
    0,
    ...report.start.filter(({ settings }) => settings.fan !== undefined).map(({ tool }) => tool),
  ]);
  for (const { key, tool } of report.changes) if (key === "fan") spoken.add(tool);
  return [...spoken].map((index) => ({ index, isNamed: index > 0 || fanPerTool }));
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
