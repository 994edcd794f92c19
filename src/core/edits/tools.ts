/** The heats, fans and places of several tools in a file: rewritten tool by tool, and all of them off at the end. */
import { z } from "zod";
import type { Line } from "../gcode/scan";
import { refuse, succeed } from "../result";
import { settingFor } from "../settings";
import { plainNumber } from "../units";
import { EditContext, EditKind } from "./edit";
import { before, openingLayer, replaced } from "./line-splice";
import { asComment, decodeLine } from "./line-text";
import { PlaceFinder } from "./scope";
import type { Splice } from "./splice";

interface ToolWish {
  tool: number;
  /** Which tool takes its place. */
  as?: number;
  /** In the first layer, later, and while another tool is in. */
  firstC?: number;
  laterC?: number;
  idleC?: number;
  /** Its fan while it is in, %. */
  fan?: number;
}

export interface ToolsEdit {
  kind: "tools";
  tools: ToolWish[];
  /** Waits for heat inside the print become comments. */
  commentWaits?: true;
  /** At the end every heater is off, each by name. */
  allOff: boolean;
}

const heat = z
  .number({ error: "A temperature is a number in °C" })
  .min(0, "A temperature is at least 0 °C")
  .max(500, "A temperature is at most 500 °C");
const tool = z.int({ error: "A tool is a whole number" }).min(0, "Tools count from 0").max(7, "At most 8 tools");

const schema = z.strictObject({
  kind: z.literal("tools"),
  tools: z
    .array(
      z.strictObject({
        tool,
        as: tool.optional(),
        firstC: heat.optional(),
        laterC: heat.optional(),
        idleC: heat.optional(),
        fan: z.number().min(0, "At least 0 %").max(100, "At most 100 %").optional(),
      }),
    )
    .max(8, "At most 8 tools")
    .refine((wishes) => new Set(wishes.map((one) => one.tool)).size === wishes.length, {
      message: "Each tool is named once",
    }),
  commentWaits: z.literal(true).optional(),
  allOff: z.boolean().default(true),
}) as unknown as z.ZodType<ToolsEdit>;

const [M, S, T] = [77, 83, 84];

export const tools: EditKind<ToolsEdit> = {
  label: "tools",
  schema,
  apply(edit, context) {
    const { file, printer } = context;
    const wishes = new Map(edit.tools.map((wish) => [wish.tool, wish]));
    for (const [i, { tool: from, as, firstC = 0, laterC = 0, idleC = 0 }] of edit.tools.entries()) {
      const to = as ?? from;
      if (to >= printer.tools) {
        const has = printer.tools === 1 ? "one tool, number 0" : `${printer.tools} tools, counted from 0`;
        return refuse(
          `Tool ${to} is not there: ${printer.name} has ${has}.`,
          `tools.${i}.${as === undefined ? "tool" : "as"}`,
        );
      }
      const hottest = Math.max(firstC, laterC, idleC);
      if (hottest > printer.highestNozzleC)
        return refuse(`${printer.name} reaches ${plainNumber(printer.highestNozzleC)} °C.`, `tools.${i}`);
    }
    const { lineEnd, layers } = file.report;
    const where = { lineEnd, by: this.label };
    const splices: Splice[] = [];
    const nameOf = (one: number) => wishes.get(one)?.as ?? one;
    const place = new PlaceFinder(file);
    let now = 0;
    const used = new Set<number>();
    let last: Line["startByte"] = 0;
    let lastNumber = 0;
    file.walk(
      (line) => {
        last = line.endByte;
        lastNumber = line.number + 1;
        if (line.commandCount === 0) return;
        place.at(line.number);
        const text = decodeLine(line);
        const at = { ...where, layer: place.layer };
        if (line.letters[0] === T && line.wordCount === 1) {
          const next = line.values[0];
          const lines = changeLines(next, now, wishes, nameOf, place.layer, context);
          now = next;
          used.add(next);
          const splice = replaced(line, [lines.change(text), ...lines.behind], at);
          if (splice) splices.push(splice);
          return;
        }
        const code = line.letters[0] === M ? line.values[0] : NaN;
        if (code !== 104 && code !== 109 && code !== 106) return;
        const meant = Number.isNaN(line.value(T)) ? now : line.value(T);
        used.add(meant);
        const changed = changedLine(text, line, code, place, wishes.get(meant), nameOf(meant), context);
        const isWait = code === 109 && place.part === "print" && edit.commentWaits;
        const splice = replaced(
          line,
          isWait ? [asComment(text, "was"), changed.replace(/M\s*0*109/i, "M104")] : [changed],
          at,
        );
        if (splice) splices.push(splice);
      },
      { moves: false },
    );
    // What holds later is said where the second layer opens, for every tool that is told apart there.
    if (layers.length > 1) {
      const later = edit.tools
        .filter(({ laterC, tool: one }) => laterC !== undefined && used.has(one))
        .map(({ tool: one, laterC }) => heatLine(nameOf(one), laterC!));
      if (later.length > 0) splices.push(openingLayer(layers[1], later, where));
    }
    if (edit.allOff) {
      const off = [...new Set([...used, ...edit.tools.map((wish) => wish.tool), 0])]
        .filter((one) => nameOf(one) < printer.tools)
        .sort((a, b) => a - b);
      const lines = ["; cuchara: every heater off", ...off.map((one) => heatLine(nameOf(one), 0)), "M140 S0"];
      splices.push(before({ startByte: last, number: lastNumber }, lines, { ...where, layer: layers.length - 1 }));
    }
    return succeed({ splices, findings: [] });
  },
};

const heatLine = (one: number, heatC: number) => `M104 T${one} S${plainNumber(heatC)}`;

/** What a change of tools becomes: the one that goes waits at its idle heat, the one that comes is at its own. */
function changeLines(
  next: number,
  before: number,
  wishes: ReadonlyMap<number, ToolWish>,
  nameOf: (tool: number) => number,
  layer: number,
  { printer }: EditContext,
) {
  const [going, coming] = [wishes.get(before), wishes.get(next)];
  const wanted = layer > 0 ? coming?.laterC : coming?.firstC;
  const fan = coming?.fan === undefined ? null : settingFor("fan").say(coming.fan, printer, nameOf(next));
  const behind = [
    ...(next !== before && going?.idleC !== undefined && layer >= 0 ? [heatLine(nameOf(before), going.idleC)] : []),
    // Back from its idle heat it is waited for: nothing is laid cold.
    ...(next !== before && coming?.idleC !== undefined && wanted !== undefined && layer >= 0
      ? [`M109 T${nameOf(next)} S${plainNumber(wanted)}`]
      : []),
    ...(fan?.ok && layer >= 0 ? fan.value : []),
  ];
  return { change: (text: string) => text.replace(/T\s*\d+/i, `T${nameOf(next)}`), behind };
}

function changedLine(
  text: string,
  line: Line,
  code: number,
  { part, layer }: PlaceFinder,
  wish: ToolWish | undefined,
  name: number,
  { printer }: EditContext,
): string {
  if (code === 106) {
    if (wish?.fan === undefined || part !== "print" || line.value(S) === 0) return text;
    const said = settingFor("fan").say(wish.fan, printer, name);
    return said.ok ? said.value.join("") : text;
  }
  const named = line.has(T) ? text.replace(/T\s*\d+/i, `T${name}`) : text;
  // What is off stays off, whatever the table says.
  const heatC = line.value(S) === 0 || part === "end" ? undefined : layer > 0 ? wish?.laterC : wish?.firstC;
  return heatC === undefined
    ? named
    : named.replace(/([SR])\s*[\d.]+/i, (_, letter: string) => `${letter}${plainNumber(heatC)}`);
}
