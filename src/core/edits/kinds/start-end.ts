/** The file's start or end lines replaced by the printer's own: filled in with the file's heats, and everything else as the print needs it. */
import { z } from "zod";
import type { MoveTable } from "../../gcode/moves";
import { readProgram } from "../../gcode/read";
import { EventKind } from "../../machine/event-kind";
import type { Line } from "../../gcode/scan";
import { readingOf } from "../../machine/reading";
import type { MachineState } from "../../machine/state";
import { stateAfter } from "../../gcode/follow";
import { fillTemplate, TemplateValues } from "../../printing/template";
import { templateValuesOf } from "../../printing/template-values";
import { refuse, Result, succeed } from "../../result";
import { ANYTHING } from "../../trace/compare";
import { bitsOf, kindOfSlot } from "../../trace/fields";
import { asCounted, Counted } from "../as-counted";
import { openUnsaid, WAY } from "../asked";
import { EditContext, EditKind, SeenFile, valueAt } from "../edit";
import { LineSplices } from "../line-splice";
import { decodeLine } from "../line-text";
import { drawnBehind } from "../relay";
import { differsInText } from "../same-text";
import { PlaceFinder } from "../scope";

export interface StartEndEdit {
  kind: "start-end";
  start: boolean;
  end: boolean;
}

const schema = z
  .strictObject({
    kind: z.literal("start-end"),
    start: z.boolean({ error: "The start lines are replaced or not" }).default(false),
    end: z.boolean({ error: "The end lines are replaced or not" }).default(false),
  })
  .refine(({ start, end }) => start || end, {
    message: "Say whether the start or the end lines are replaced",
    path: ["start"],
  }) as unknown as z.ZodType<StartEndEdit>;

const heaters: ReadonlySet<EventKind> = new Set([EventKind.nozzleTemperature, EventKind.bedTemperature]);

export const startEnd: EditKind<StartEndEdit> = {
  label: "start and end lines",
  writesFilament: true,
  tellsHeats: true,
  schema,
  asks(edit) {
    let isInside = false;
    return {
      bead(bead, slots) {
        if (edit.start && !isInside && bead.layer < 0) return false;
        if (edit.start) openUnsaid(bead, slots);
        if (edit.start && !isInside) bead.open |= WAY;
        isInside = true;
        return true;
      },
      brings: (layer) => edit.start && layer < 0,
      end(end, slots) {
        if (edit.start) openUnsaid(end, slots);
        if (!edit.end) return;
        // Whatever the printer's own lines do: what the file left off stays off.
        const off = slots.filter((slot) => heaters.has(kindOfSlot(slot)) && end.set[slot] === 0);
        for (const slot of slots) end.set[slot] = ANYTHING;
        for (const slot of off) end.set[slot] = 0;
        end.open |= WAY | bitsOf("place", "tool");
      },
      ...(edit.end ? { motors: "open" as const } : {}),
    };
  },
  proves(edit, before, after, context) {
    const lines = linesOf(edit, context);
    if (!lines.ok) return [];
    const { of, isStartSaid, isEndSaid } = exchanged(edit, lines.value, before);
    // What was not said in place of a line stands in front of the print, or behind the last line.
    let isPast = false;
    const { printFrom } = before.report;
    return differsInText(
      before,
      after,
      (line) => {
        const own = of(line);
        if (!edit.start || isPast || line.number < printFrom.line) return own;
        isPast = true;
        return isStartSaid() ? own : [...lines.value.start, ...(own ?? [decodeLine(line)])];
      },
      () => (edit.end && !isEndSaid() ? lines.value.end : []),
    );
  },
  apply(edit, context) {
    const { file } = context;
    const lines = linesOf(edit, context);
    if (!lines.ok) return lines;
    const { start, end } = lines.value;
    const splices = new LineSplices(file.report.lineEnd, this.label);
    const lastLayer = file.report.layers.length - 1;
    const { of, isStartSaid, isEndSaid } = exchanged(edit, lines.value, file);
    let isEnded = true;
    file.walk(
      (line) => {
        isEnded = line.endByte - line.startByte > line.to - line.from;
        const own = of(line);
        if (own) splices.replace(line, own, line.number < file.report.printFrom.line ? 0 : lastLayer);
      },
      { moves: true },
    );
    const { line: number, byte: startByte } = file.report.printFrom;
    if (edit.start && !isStartSaid()) splices.before({ startByte, number }, start, 0);
    const last = { startByte: file.report.bytes, number: file.report.lines };
    // A file may end without a line end: then this begins with one.
    if (edit.end && !isEndSaid()) splices.before(last, isEnded ? end : ["", ...end], lastLayer);
    return splices.outcome([], { mustAll: true });
  },
};

interface StartEndLines {
  start: string[];
  end: string[];
}

/** The lines that are put in; refused with field and reason. */
function linesOf(edit: StartEndEdit, context: EditContext): Result<StartEndLines> {
  const values = valuesOf(context);
  if (!values.ok) return values;
  const start = edit.start ? startOf(context, values.value) : succeed<string[]>([]);
  if (!start.ok) return start;
  const end = edit.end ? endOf(context, values.value) : succeed<string[]>([]);
  if (!end.ok) return { ...end, field: "end" };
  return succeed({ start: start.value, end: end.value });
}

/** Says of each line, asked from the first to the last, what stands in its place: all of it for the first that goes, nothing for the others. */
function exchanged(edit: StartEndEdit, { start, end }: StartEndLines, file: SeenFile) {
  const place = new PlaceFinder(file);
  let [hasStart, hasEnd] = [false, false];
  const of = (line: Line): string[] | null => {
    place.at(line.number);
    if (!isCommand(line)) return null;
    if (edit.start && place.part === "start") {
      const own = hasStart ? [] : start;
      hasStart = true;
      return own;
    }
    if (!edit.end || place.part !== "end") return null;
    const own = hasEnd ? [] : end;
    hasEnd = true;
    return own;
  };
  return { of, isStartSaid: () => hasStart, isEndSaid: () => hasEnd };
}

const isCommand = ({ commandCount, wordCount, named }: Line) => commandCount > 0 || wordCount > 0 || named;

/** What the names in the templates stand for in this file; refused where it does not say how hot it prints. */
function valuesOf(context: EditContext): Result<TemplateValues> {
  const { file, printer } = context;
  const { layers, filament } = file.report;
  const tool = filament[0]?.tool ?? 0;
  const nozzleC = valueAt(context, "nozzleTemperature", 0, tool);
  if (nozzleC === null) {
    return refuse(
      "The file never says how hot the nozzle is at its start, so the start lines cannot be filled in.",
      "start",
    );
  }
  return succeed(
    templateValuesOf(printer, {
      nozzleC,
      bedC: valueAt(context, "bedTemperature", 0, 0) ?? 0,
      tool,
      topMm: layers.reduce((top, { zMm }) => Math.max(top, zMm), 0),
      firstLayerHeightMm: layers[0].heightMm,
      layerHeightMm: layers[Math.min(1, layers.length - 1)].heightMm,
    }),
  );
}

/** The printer's start lines, and behind them whatever the print counts on: units, modes, filament, tool, fan and feed as they were. */
function startOf(context: EditContext, values: TemplateValues): Result<string[]> {
  const { file, printer } = context;
  const filled = fillTemplate(printer.startLines, values, "startLines");
  if (!filled.ok) return { ...filled, field: "start" };
  if (filled.value.length === 0) return refuse(`${printer.name} has no start lines: write them on the shelf.`, "start");
  const wanted = file.stateBefore(file.report.printFrom.byte);
  if (wanted.relative) {
    return refuse("This print uses relative positioning (G91), so its start lines can't be replaced.", "start");
  }
  if (wanted.offsetX !== 0 || wanted.offsetY !== 0 || wanted.offsetZ !== 0) {
    return refuse(
      "The start lines reset a position (G92) that the print relies on, so they can't be replaced.",
      "start",
    );
  }
  const reading = readingOf(printer);
  const { moves } = readProgram(filled.value.join("\n") + "\n", { reading, asksProgram: false });
  const got = { state: stateAfter(filled.value, reading), drawnMm: drawnBackIn(moves, Infinity) };
  return succeed([
    `; cuchara: start lines of ${printer.name}`,
    ...filled.value,
    "; cuchara: as the print counts on it",
    ...asItWas(context, wanted, got),
  ]);
}

/** The printer's end lines; they speak of millimetres and of places on the bed, whatever the print counts in. */
function endOf({ file, printer }: EditContext, values: TemplateValues): Result<string[]> {
  const filled = fillTemplate(printer.endLines, values, "endLines");
  if (!filled.ok) return filled;
  if (filled.value.length === 0) return refuse(`${printer.name} has no end lines: write them on the shelf.`);
  const { unitMm, relative } = file.stateBefore(file.report.layers[file.report.layers.length - 1].insertByte);
  return succeed([...(unitMm === 1 ? [] : ["G21"]), ...(relative ? ["G90"] : []), ...filled.value]);
}

/** What the print counts on, behind the printer's own lines; the way to its first bead brings the nozzle there. */
function asItWas({ file, printer }: EditContext, wanted: MachineState, got: Counted): string[] {
  return asCounted(
    got,
    { state: wanted, drawnMm: drawnBackIn(file.tables().moves, file.report.printFrom.line) },
    printer,
    {
      waits: true,
    },
  );
}

/** How much filament is drawn back by moves in front of a line (from 0), mm. */
function drawnBackIn({ count, line, kind, filamentMm }: MoveTable, before: number): number {
  let drawnMm = 0;
  for (let i = 0; i < count && line[i] < before; i++) drawnMm = drawnBehind(drawnMm, kind[i], filamentMm[i]);
  return drawnMm > 0.01 ? drawnMm : 0;
}
