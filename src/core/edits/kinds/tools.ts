/** The heats, fans and places of several tools in a file: rewritten tool by tool, and all of them off at the end. */
import { z } from "zod";
import { figureOf, withWord } from "../../gcode/line-change";
import type { Line } from "../../gcode/scan";
import { EventKind } from "../../machine/event-kind";
import { Reading, readingOf } from "../../machine/reading";
import { moveSeconds } from "../../motion/duration";
import { limitsFor } from "../../motion/limits";
import { Refusal, refuse } from "../../result";
import { settingFor } from "../../settings";
import type { Bead } from "../../trace/bead";
import { ANYTHING } from "../../trace/compare";
import { bitsOf, slotOf } from "../../trace/fields";
import { plainNumber } from "../../units";
import { EditContext, EditKind } from "../edit";
import { fanTold } from "../fan-lines";
import { LinePlace, LineSplices } from "../line-splice";
import { asComment, decodeLine } from "../line-text";
import { PlaceFinder } from "../scope";

interface ToolRequest {
  tool: number;
  /** Which tool takes its place. */
  as?: number;
  /** In the first layer, later, and while another tool is in. */
  firstC?: number;
  laterC?: number;
  idleC?: number;
  /** Its fan while it is in, %. */
  fan?: number;
  /** Where its nozzle stands from the first, mm: said at the start (M218). */
  offset?: { x: number; y: number };
}

export interface ToolsEdit {
  kind: "tools";
  tools: ToolRequest[];
  /** Waits for heat inside the print become comments. */
  commentWaits?: true;
  /** At the end every heater is off, each by name. */
  allOff: boolean;
  /** Lines (from 1) that are left as they are. */
  skip?: number[];
}

const heat = z
  .number({ error: "A temperature is a number in °C" })
  .min(0, "A temperature is at least 0 °C")
  .max(500, "A temperature is at most 500 °C");
const offset = z
  .number({ error: "An offset is a number in mm" })
  .min(-500, "No tool stands that far away")
  .max(500, "No tool stands that far away");
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
        offset: z.strictObject({ x: offset, y: offset }).optional(),
      }),
    )
    .max(8, "At most 8 tools")
    .refine((requests) => new Set(requests.map((one) => one.tool)).size === requests.length, {
      message: "Each tool is named once",
    }),
  commentWaits: z.literal(true).optional(),
  allOff: z.boolean().default(true),
}) as unknown as z.ZodType<ToolsEdit>;

/** Tools are named up to here. */
const MOST_NAMED = 8;
const [M, S, T, X, Y, E] = [77, 83, 84, 88, 89, 69];

export const tools: EditKind<ToolsEdit> = {
  label: "tools",
  tellsHeats: true,
  schema,
  asks(edit, context) {
    const table = new ToolTable(edit, context);
    const offsets = edit.tools
      .filter(({ offset: by }) => by)
      .map((request) => slotOf(EventKind.toolOffset, table.nameOf(request.tool)));
    const fans = edit.tools.some(({ fan, as }) => fan !== undefined || as !== undefined) ? bitsOf("fan") : 0;
    return {
      bead(bead) {
        const { tool: one, layer } = bead;
        bead.open |= fans | bitsOf("waits", ...((edit.skip?.length ?? 0) > 0 ? (["heat", "tool"] as const) : []));
        const ownC = bead.set[slotOf(EventKind.nozzleTemperature, one)];
        const wantedC = layer < 0 || !(ownC > 0) ? undefined : table.wanted(one, layer);
        bead.tool = table.nameOf(one);
        for (let tool = 0; tool < MOST_NAMED; tool++) bead.set[slotOf(EventKind.nozzleTemperature, tool)] = ANYTHING;
        if (ownC > 0) bead.set[slotOf(EventKind.nozzleTemperature, bead.tool)] = wantedC ?? ownC;
        for (const slot of offsets) bead.set[slot] = ANYTHING;
        // What belongs to a tool goes with it.
        bead.open |= bitsOf("advance");
        return true;
      },
      end(end) {
        end.open |= fans | bitsOf("waits", "tool", "advance");
        const isOff = Array.from({ length: MOST_NAMED }, (_, tool) => edit.allOff && table.isHeated(tool, end));
        isOff.forEach((off, tool) => void (end.set[slotOf(EventKind.nozzleTemperature, tool)] = off ? 0 : ANYTHING));
        if (edit.allOff) end.set[slotOf(EventKind.bedTemperature, 0)] = 0;
        for (const slot of offsets) end.set[slot] = ANYTHING;
      },
    };
  },
  placesAlone: true,
  proves({ allOff }, _before, { report }) {
    const { nozzles, bedC } = report.facts.leftOn;
    if (!allOff || (nozzles.length === 0 && bedC === 0)) return [];
    return [`${nozzles.length > 0 ? `Nozzle ${nozzles[0].tool}` : "The bed"} is still on at the end.`];
  },
  apply(edit, context) {
    const unfit = unfitRequest(edit, context);
    if (unfit) return unfit;
    const { layers, lineEnd } = context.file.report;
    const splices = new LineSplices(lineEnd, this.label);
    const table = new ToolTable(edit, context);
    const { isInAtSecondLayer, lastLine, comings } = rewrite(table, edit, context, splices);
    takeUpFirst(edit, context, table, splices);
    sayOffsets(edit, context, table, splices);
    tellEarly(comings, context, table, splices);
    // What holds later is said where the second layer opens; a tool that stands idle there waits for its own turn.
    if (layers.length > 1) {
      const later = edit.tools.filter(
        ({ tool: one, laterC, idleC }) =>
          laterC !== undefined && table.used.has(one) && (idleC === undefined || one === isInAtSecondLayer),
      );
      splices.opening(
        layers[1],
        later.flatMap(({ tool: one, laterC }) => table.heat(one, laterC!)),
      );
    }
    if (edit.allOff) {
      const off = [...new Set([...table.used, ...edit.tools.map((request) => request.tool), 0])].sort((a, b) => a - b);
      // A file may end without a line end: then this begins with one.
      const lines = ["; cuchara: every heater off", ...off.flatMap((one) => table.heat(one, 0)), "M140 S0"];
      splices.before(
        { startByte: lastLine.endByte, number: lastLine.number + 1 },
        lastLine.isEnded ? lines : ["", ...lines],
        layers.length - 1,
      );
    }
    return splices.outcome([]);
  },
};

function unfitRequest(edit: ToolsEdit, { printer }: EditContext): Refusal | null {
  for (const [i, { tool: from, as, firstC = 0, laterC = 0, idleC = 0 }] of edit.tools.entries()) {
    if ((as ?? from) >= printer.tools) {
      const has = printer.tools === 1 ? "one tool, number 0" : `${printer.tools} tools, counted from 0`;
      return refuse(
        `Tool ${as ?? from} is not there: ${printer.name} has ${has}.`,
        `tools.${i}.${as === undefined ? "tool" : "as"}`,
      );
    }
    if (Math.max(firstC, laterC, idleC) > printer.highestNozzleC) {
      return refuse(`${printer.name} reaches ${plainNumber(printer.highestNozzleC)} °C.`, `tools.${i}`);
    }
  }
  return null;
}

/** What is wished of each tool, and how it is said on this printer. */
class ToolTable {
  /** Tools the file speaks of. */
  readonly used = new Set<number>();
  private readonly requests: ReadonlyMap<number, ToolRequest>;

  constructor(
    { tools: requests }: ToolsEdit,
    private readonly context: EditContext,
  ) {
    this.requests = new Map(requests.map((request) => [request.tool, request]));
  }

  of(one: number): Partial<ToolRequest> {
    return this.requests.get(one) ?? {};
  }

  /** The tool that takes its place. */
  nameOf(one: number): number {
    return this.of(one).as ?? one;
  }

  /** Lines that set its heat and go on; none for a tool this printer does not have. */
  heat(one: number, heatC: number): string[] {
    const { printer } = this.context;
    if (this.nameOf(one) >= printer.tools) return [];
    const said = settingFor("nozzleTemperature").say(heatC, printer, this.nameOf(one));
    return said.ok ? said.value : [];
  }

  fan(one: number): string[] {
    const { fan } = this.of(one);
    const { printer } = this.context;
    const said = fan === undefined ? null : settingFor("fan").say(fan, printer, this.nameOf(one));
    return said?.ok ? said.value : [];
  }

  /** Whether a tool of the file afterwards is one that the file ever heats. */
  isHeated(tool: number, { set }: Bead): boolean {
    const own = [...this.requests.values()].find(({ as }) => as === tool)?.tool ?? tool;
    return (
      this.nameOf(own) === tool &&
      tool < this.context.printer.tools &&
      !Number.isNaN(set[slotOf(EventKind.nozzleTemperature, own)])
    );
  }

  /** Its heat in a layer (from 0). */
  wanted(one: number, layer: number): number | undefined {
    const { firstC, laterC } = this.of(one);
    return layer > 0 ? laterC : firstC;
  }
}

/** A line that tells tool, heat or fan, until it is known which layer is laid behind it. */
interface Told extends LinePlace {
  text: string;
  what: "tool" | "heat" | "fan";
  tool: number;
  /** The tool that was in before it, and the line (from 0) at which that came in. */
  before: number;
  changedAt: number;
  isOff: boolean;
  /** A fan runs there. */
  isBlown: boolean;
  waits: boolean;
  /** It stands between the first and the last material. */
  isInPrint: boolean;
}

/** A tool that comes in from its idle heat: at a line, to be heated to so much; the change before it stood at `changedAt`. */
interface Coming {
  line: number;
  changedAt: number;
  tool: number;
  heatC: number;
  fromC: number;
}

/**
 * A file that never says its first tool counts on tool 0 being in: where another takes its place, that one is taken up before
 * anything is fed.
 */
function takeUpFirst(
  { tools: requests }: ToolsEdit,
  { file }: EditContext,
  table: ToolTable,
  splices: LineSplices,
): void {
  if (table.nameOf(0) === 0 || !requests.some(({ tool: one }) => one === 0)) return;
  let place: LinePlace | null = null;
  let isSaid = false;
  file.walk(
    (line) => {
      if (isSaid || place) return;
      if (line.letters[0] === T && line.commandCount > 0) isSaid = true;
      else if (line.has(E) && line.letters[0] !== M && line.values[0] !== 92)
        place = { number: line.number, startByte: line.startByte, endByte: line.endByte };
    },
    { moves: true },
  );
  if (!isSaid && place) splices.before(place, [`T${table.nameOf(0)} ; cuchara: in place of tool 0`], 0);
}

/** Offsets stand before the first layer: nothing is laid without them. */
function sayOffsets(
  { tools: requests }: ToolsEdit,
  { file }: EditContext,
  table: ToolTable,
  splices: LineSplices,
): void {
  const lines = requests.flatMap(({ tool: one, offset: by }) =>
    by ? [`M218 T${table.nameOf(one)} X${plainNumber(by.x)} Y${plainNumber(by.y)}`] : [],
  );
  splices.opening(file.report.layers[0], lines);
}

/** A nozzle takes so long more than by its rate alone, s. Common practice, no source. */
const AHEAD_S = 3;

/** Each tool that comes back from its idle heat is told so long before that it need hardly be waited for. */
function tellEarly(
  comings: readonly Coming[],
  { file, printer }: EditContext,
  table: ToolTable,
  splices: LineSplices,
): void {
  if (comings.length === 0) return;
  const { moves, events } = file.tables();
  const seconds = moveSeconds(moves, events, limitsFor(printer));
  const told = new Map<number, string[]>();
  let move = 0;
  for (const { line, changedAt, tool: one, heatC, fromC } of comings) {
    while (move < moves.count && moves.line[move] < line) move++;
    const needsS = Math.max(0, heatC - fromC) / printer.heaterRiseCPerS + AHEAD_S;
    let at = move;
    let passedS = 0;
    while (at > 0 && moves.line[at - 1] > changedAt && passedS < needsS) passedS += seconds[--at];
    // Where the other tool is in for less than the heat takes, the change itself waits.
    const place = moves.line[at] ?? line;
    if (passedS < needsS || place >= line) continue;
    const said = table.heat(one, heatC).map((text) => `${text} ; cuchara: told early`);
    told.set(place, [...(told.get(place) ?? []), ...said]);
  }
  const place = new PlaceFinder(file);
  file.walk(
    (line) => {
      place.at(line.number);
      const lines = told.get(line.number);
      if (lines) splices.before(line, lines, place.layer);
    },
    { moves: true },
  );
}

/** Rewrites every line that tells a tool, its heat or its fan. Such a line belongs to the layer that is laid next behind it. */
function rewrite(table: ToolTable, edit: ToolsEdit, { file, printer }: EditContext, splices: LineSplices) {
  const reading = readingOf(printer);
  let now = 0;
  let changedAt = 0;
  let isInAtSecondLayer = -1;
  let waiting: Told[] = [];
  let isBlown = false;
  const lastLine = { number: -1, endByte: 0, isEnded: true };
  const place = new PlaceFinder(file);
  const comings: Coming[] = [];
  const settle = (layer: number | null) => {
    for (const told of waiting) {
      const coming = layer === null ? null : comingOf(told, layer, table);
      if (coming) comings.push(coming);
      const lines = linesFor(told, layer, table, edit);
      if (lines.length !== 1 || lines[0] !== told.text)
        splices.replacePassed(told, lines, Math.max(0, layer ?? place.layer));
    }
    waiting = [];
  };
  file.walk(
    (line) => {
      lastLine.number = line.number;
      lastLine.endByte = line.endByte;
      lastLine.isEnded = line.endByte - line.startByte > line.to - line.from;
      place.at(line.number);
      if (place.layer === 1 && isInAtSecondLayer < 0) isInAtSecondLayer = now;
      if (line.has(E) && (line.has(X) || line.has(Y))) settle(place.layer);
      const what = whatItTells(line, reading);
      if (what === null) return;
      const named = line.value(T);
      const tool = what === "tool" ? line.values[0] : what === "heat" && !Number.isNaN(named) ? named : now;
      table.used.add(tool);
      if (what === "fan") isBlown = fanTold(line, reading, now)!.percent > 0;
      if (!splices.takes(line)) return;
      const { number, startByte, endByte } = line;
      waiting.push({
        ...{ number, startByte, endByte, what, tool, before: now, changedAt },
        text: decodeLine(line),
        isBlown,
        isOff: what === "fan" ? fanTold(line, reading, now)!.percent === 0 : line.value(S) === 0,
        waits: line.values[0] === 109,
        isInPrint: place.part === "print",
      });
      if (what !== "tool") return;
      if (tool !== now) changedAt = line.number;
      now = tool;
    },
    { moves: true },
  );
  settle(null);
  return { isInAtSecondLayer, lastLine, comings };
}

function comingOf(
  { what, tool: one, before, isInPrint, number, changedAt }: Told,
  layer: number,
  table: ToolTable,
): Coming | null {
  const { idleC } = table.of(one);
  const heatC = table.wanted(one, layer);
  if (what !== "tool" || !isInPrint || one === before || idleC === undefined || heatC === undefined) return null;
  return { line: number, changedAt, tool: one, heatC, fromC: idleC };
}

function whatItTells(line: Line, reading: Reading): Told["what"] | null {
  if (line.commandCount === 0) return null;
  if (line.letters[0] === T && line.wordCount === 1) return "tool";
  if (line.letters[0] !== M) return null;
  if (line.values[0] === 104 || line.values[0] === 109) return "heat";
  return fanTold(line, reading, 0) ? "fan" : null;
}

/** @param layer the one that is laid next behind the line; null if none is */
function linesFor(told: Told, layer: number | null, table: ToolTable, { commentWaits }: ToolsEdit): string[] {
  const { text, what, tool, before, isOff, isInPrint } = told;
  if (what === "fan") return isOff || layer === null || table.of(tool).fan === undefined ? [text] : table.fan(tool);
  const name = String(table.nameOf(tool));
  // A heat that names no tool is of the one that is in, and that may be told later than the heat.
  const renamed =
    what === "heat" && figureOf(text, "T") === null && table.nameOf(tool) === tool ? text : withWord(text, "T", name);
  const wanted = layer === null ? undefined : table.wanted(tool, layer);
  if (what === "tool") {
    const isChange = isInPrint && tool !== before;
    const { idleC } = table.of(before);
    const comesBack = isChange && table.of(tool).idleC !== undefined && wanted !== undefined;
    return [
      renamed,
      ...(isChange && idleC !== undefined ? table.heat(before, idleC) : []),
      // Back from its idle heat it is waited for: nothing is laid cold.
      ...(comesBack ? table.heat(tool, wanted).map((line) => line.replace("M104", "M109")) : []),
      // Where the file has its fan off, as in first layers, it stays off.
      ...(layer === null || !told.isBlown ? [] : table.fan(tool)),
    ];
  }
  // What is off stays off, whatever the table says.
  const heated =
    isOff || wanted === undefined
      ? renamed
      : renamed.replace(/([SR])\s*[\d.]+/i, (_, letter: string) => `${letter}${plainNumber(wanted)}`);
  if (!(told.waits && isInPrint && commentWaits)) return [heated];
  return [asComment(text, "was"), heated.replace(/M\s*0*109/i, "M104")];
}
