/** Strands over air laid with care: the nozzle cooler from some layers before, feed, flow and fan for the first layers over air. */
import { z } from "zod";
import type { Finding } from "../../findings/finding";
import { figureOf, withWord } from "../../gcode/line-change";
import type { LineWords } from "../../gcode/line-words";
import type { Layer } from "../../gcode/layers";
import { laysMaterial } from "../../gcode/moves";
import type { LineObserver, ProgramTables } from "../../gcode/read";
import type { Line } from "../../gcode/scan";
import { Bridge, findBridges, overAirIn, PartOverAir } from "../../laid/over-air";
import { eachSample, LayerRaster } from "../../laid/raster";
import { strandsOf } from "../../laid/strands";
import { EventKind } from "../../machine/event-kind";
import { readingOf } from "../../machine/reading";
import { MachineState, MOST_TOOLS } from "../../machine/state";
import { refuse } from "../../result";
import { settingFor } from "../../settings";
import type { Printer } from "../../shelf/printer";
import { ANYTHING } from "../../trace/compare";
import { bitOf, slotOf } from "../../trace/fields";
import { plainNumber } from "../../units";
import { setBy } from "../asked";
import { EditContext, EditKind, PlannedForTool, valueAt } from "../edit";
import { LineKindFinder } from "../line-kinds";
import { LineSplices } from "../line-splice";
import { asComment, decodeLine } from "../line-text";
import { asItIs, MoveRewriter, Share } from "../rewrite-moves";
import { PlaceFinder } from "../scope";

/** How one layer over air is laid. */
export interface OverAir {
  feedPercent: number;
  flowPercent: number;
  /** %; as it is if left out. */
  fan?: number;
}

export interface BridgesEdit {
  kind: "bridges";
  /** By how much cooler the nozzle is, °C. */
  cooler: number;
  layersBefore: number | "auto";
  /** The first, second, third layer over air. */
  layers: OverAir[];
  only: "strands" | "layer";
  /** Bridges that stay as they are: the lines (from 1) they begin at. */
  skip?: number[];
}

const percent = (most: number) => z.number({ error: "A percentage is a number" }).max(most, `At most ${most} %`);

const schema = z.strictObject({
  kind: z.literal("bridges"),
  cooler: z
    .number({ error: "Say by how many °C the nozzle is cooler" })
    .min(0, "The nozzle is 0 °C cooler or more")
    .max(100, "At most 100 °C cooler"),
  layersBefore: z
    .union([z.literal("auto"), z.int().min(0).max(50)], { error: "A number of layers from 0 to 50, or “auto”" })
    .default("auto"),
  layers: z
    .array(
      z.strictObject({
        feedPercent: percent(500).min(10, "At least 10 %").default(100),
        flowPercent: percent(300).min(10, "At least 10 %").default(100),
        fan: percent(100).min(0, "At least 0 %").optional(),
      }),
    )
    .min(1, "Say how the first layer over air is laid")
    .max(5, "At most five layers over air"),
  only: z.enum(["strands", "layer"], { error: "Only the strands, or the whole layer" }).default("strands"),
  skip: z.array(z.int().min(1)).max(10_000).optional(),
}) as unknown as z.ZodType<BridgesEdit>;

/** More layers than this are never proposed. */
const MOST_BEFORE = 20;

export const bridges: EditKind<BridgesEdit> = {
  label: "bridges",
  writesFilament: true,
  tellsHeats: true,
  schema,
  asks(edit, context) {
    const { file, printer } = context;
    const tables = file.tables();
    const chosen = findBridges(tables).filter(({ line }) => !edit.skip?.includes(line + 1));
    const levels = levelsOf(tables, chosen, edit);
    const finder = new LineKindFinder(tables.moves, levels);
    const isCool = coolLayers(edit, chosen, context);
    const runs = fanRuns(edit.layers, tables, levels);
    const { fanPerTool } = readingOf(printer);
    return {
      sets: file.report.filament.map(({ tool }) => slotOf(EventKind.fan, fanPerTool ? tool : 0)),
      bead(bead) {
        const { layer, tool, line } = bead;
        const way = edit.layers[finder.kindAt(line) - 1];
        if (way) {
          bead.feedMmS *= way.feedPercent / 100;
          bead.filamentMm *= way.flowPercent / 100;
        }
        if (layer < 0) return true;
        const heat = slotOf(EventKind.nozzleTemperature, tool);
        // What is waited for is as much less as it is told.
        if (edit.cooler > 0) bead.open |= bitOf.waits;
        for (let other = 0; other < MOST_TOOLS; other++) {
          const slot = slotOf(EventKind.nozzleTemperature, other);
          // Tools that wait are told as much less, or as they were, by where the file tells them.
          if (slot !== heat && edit.cooler > 0) bead.set[slot] = ANYTHING;
        }
        if (isCool[layer] && bead.set[heat] - edit.cooler > 0) bead.set[heat] -= edit.cooler;
        const run = runs.get(layer);
        if (!run || line < run.first || line > run.last) return true;
        const fan = slotOf(EventKind.fan, fanPerTool ? tool : 0);
        if (bead.saidAt[fan] >= run.first) return true;
        const said = settingFor("fan").say(edit.layers[run.level - 1].fan!, printer, fanPerTool ? tool : 0);
        if (said.ok)
          bead.set[fan] = setBy(said.value, readingOf(printer), tool).find(({ slot }) => slot === fan)?.value ?? NaN;
        return true;
      },
      end(end) {
        end.open |= edit.cooler > 0 ? bitOf.heat : 0;
        end.open |= runs.size > 0 ? bitOf.fan : 0;
      },
    };
  },
  apply(edit, context) {
    const { file } = context;
    const tables = file.tables();
    const { bridges: all, parts } = overAirIn(tables);
    const unknown = edit.skip?.find((line) => !all.some((one) => one.line + 1 === line));
    if (unknown !== undefined) return refuse(`No bridge begins at line ${unknown}.`, "skip");
    const chosen = all.filter(({ line }) => !edit.skip?.includes(line + 1));
    if (all.length === 0) {
      return refuse(parts.length > 0 ? sayParts(parts, tables) : "Nothing in this file bridges air.");
    }
    if (chosen.length === 0) return refuse("No bridge is chosen: choose at least one.", "skip");
    const splices = new LineSplices(file.report.lineEnd, this.label);
    const planned = edit.cooler > 0 ? cool(edit, chosen, context, splices) : { ok: true as const, value: [] };
    if (!planned.ok) return planned;
    const levels = levelsOf(tables, chosen, edit);
    const place = new PlaceFinder(file);
    const finder = new LineKindFinder(tables.moves, levels);
    const shares = edit.layers.map(({ feedPercent, flowPercent }): Share =>
      feedPercent === 100 && flowPercent === 100 ? asItIs : { feed: feedPercent / 100, flow: flowPercent / 100 },
    );
    const rewriter = new MoveRewriter(
      (line, lays) => (lays ? (shares[finder.kindAt(line) - 1] ?? asItIs) : asItIs),
      splices,
      place,
    );
    const fans = edit.layers.some(({ fan }) => fan !== undefined)
      ? new FanOverAir(edit.layers, tables, levels, splices, context.printer, new PlaceFinder(file))
      : null;
    file.follow(fans ? both(rewriter, fans) : rewriter);
    if (fans?.refusal) return refuse(fans.refusal, "layers");
    const findings = parts.length === 0 ? [] : [leftAsTheyAre(parts, tables)];
    return splices.outcome(findings, { mustAll: true, planned: planned.value });
  },
};

const leftAsTheyAre = (parts: readonly PartOverAir[], tables: ProgramTables): Finding => ({
  check: "left-as-they-are",
  severity: "note",
  where: `line ${tables.moves.line[parts[0].move] + 1}`,
  message: sayParts(parts, tables),
});

/** Moves are changed whole: those that hang by less than half stay as they are. */
function sayParts(parts: readonly PartOverAir[], { moves }: ProgramTables): string {
  const [first] = parts;
  const widest = parts.reduce((most, { spanMm }) => Math.max(most, spanMm), 0);
  const lines = parts.length === 1 ? "One line hangs" : `${parts.length.toLocaleString("en")} lines hang`;
  return `${lines} over air for less than half of ${parts.length === 1 ? "its" : "their"} length (up to ${plainNumber(widest, 1)} mm), from line ${moves.line[first.move] + 1} in layer ${moves.layer[first.move] + 1} on: a line is laid in one way from end to end, so ${parts.length === 1 ? "it stays" : "they stay"} as ${parts.length === 1 ? "it is" : "they are"}.`;
}

/** Layers in front of a bridge in which the nozzle falls by `coolerC`: by the rate it falls at, and by the program's own times. */
export function layersToCool(
  layer: number,
  coolerC: number,
  layers: readonly { seconds: number }[],
  { heaterFallCPerS, heaterLagS }: Pick<Printer, "heaterFallCPerS" | "heaterLagS">,
): number {
  const neededS = coolerC / heaterFallCPerS + heaterLagS;
  let seconds = 0;
  let count = 0;
  while (seconds < neededS && count < MOST_BEFORE && layer - count - 1 >= 1) seconds += layers[layer - ++count].seconds;
  return Math.max(1, count);
}

/** The layers in which the nozzle is cooler: from some before each bridge until the last one over it. */
function coolLayers(edit: BridgesEdit, chosen: readonly Bridge[], { file, printer }: EditContext): Uint8Array {
  const { layers } = file.report;
  const isCool = new Uint8Array(layers.length);
  if (edit.cooler === 0) return isCool;
  // Layers that are laid like any other are as hot as any other.
  const isCareful = ({ feedPercent, flowPercent, fan }: OverAir) =>
    feedPercent !== 100 || flowPercent !== 100 || fan !== undefined;
  const count = Math.max(1, edit.layers.findLastIndex(isCareful) + 1);
  for (const { layer } of chosen) {
    const before = edit.layersBefore === "auto" ? layersToCool(layer, edit.cooler, layers, printer) : edit.layersBefore;
    isCool.fill(1, Math.max(0, layer - before), Math.min(layers.length, layer + count));
  }
  return isCool;
}

/** Sets the nozzle cooler in those layers, and back behind them. */
function cool(edit: BridgesEdit, chosen: readonly Bridge[], context: EditContext, splices: LineSplices) {
  const { file, printer } = context;
  const { layers, filament } = file.report;
  const isCool = coolLayers(edit, chosen, context);
  const planned: PlannedForTool[] = [];
  const heatsWithin = new Set(
    file.report.changes.filter(({ key, within }) => key === "nozzleTemperature" && within).map(({ layer }) => layer),
  );
  for (const { tool, lastLayer } of filament) {
    const own = layers.map((_, i) => valueAt(context, "nozzleTemperature", i, tool));
    if (own.every((value) => value === null)) {
      return refuse(
        "The file never says how hot the nozzle is, so it can't be made cooler by a number of degrees. Set it by a plan first.",
        "cooler",
      );
    }
    const wanted = new Float64Array(layers.length).fill(NaN);
    for (let i = 0; i <= Math.min(lastLayer + 1, layers.length - 1); i++) {
      const value = own[i];
      if (value === null || (isCool[i] && value - edit.cooler < 0)) continue;
      const now = isCool[i] ? value - edit.cooler : value;
      if (isCool[i] && !heatsWithin.has(i)) wanted[i] = now;
      // Within, the file's own lines say what holds.
      if (isCool[i] === (i > 0 ? isCool[i - 1] : 0)) continue;
      const said = settingFor("nozzleTemperature").say(now, printer, tool);
      if (!said.ok) return refuse(said.message, "cooler");
      const why = isCool[i] ? `${plainNumber(edit.cooler)} °C cooler for what is laid over air` : "back to its own";
      splices.opening(
        layers[i],
        said.value.map((line) => `${line} ; cuchara: nozzle ${why}`),
      );
    }
    planned.push({ tool, planned: { nozzleTemperature: wanted } });
  }
  lowerOwnHeats(edit, file, isCool, splices);
  return { ok: true as const, value: planned };
}

/**
 * What the file itself sets a nozzle to within cool layers is cooler by as much, whichever tool it is of: a tool that comes in is heated for
 * what it lays, one that waits for as much less. What is off stays off.
 */
function lowerOwnHeats(
  { cooler }: BridgesEdit,
  file: EditContext["file"],
  isCool: Uint8Array,
  splices: LineSplices,
): void {
  const place = new PlaceFinder(file);
  file.walk(
    (line) => {
      const code = line.commandCount > 0 && line.letters[0] === 77 ? line.values[0] : NaN;
      if (code !== 104 && code !== 109) return;
      place.at(line.number);
      if (place.part !== "print" || !isCool[place.layer] || place.layer === 0) return;
      const text = decodeLine(line);
      const letter = figureOf(text, "S") === null ? "R" : "S";
      const heatC = figureOf(text, letter);
      if (heatC === null || heatC - cooler <= 0) return;
      const lower = withWord(text, letter, plainNumber(heatC - cooler));
      splices.replace(line, [asComment(text, "was"), lower], place.layer);
    },
    { moves: false },
  );
}

/** Which layer over air each move is of: 1 for the bridge itself, 2 for what lies on it, …; 0 for everything else. */
export function levelsOf(
  { moves, layers }: ProgramTables,
  chosen: readonly Bridge[],
  { layers: ways, only }: Pick<BridgesEdit, "layers" | "only">,
): Uint8Array {
  const levels = new Uint8Array(moves.count);
  const byLayer = new Map<number, Bridge[]>();
  for (const bridge of chosen) byLayer.set(bridge.layer, [...(byLayer.get(bridge.layer) ?? []), bridge]);
  // From the last level to the first: where two meet, the lower one counts.
  for (let level = ways.length; level >= 1; level--) {
    for (const [layer, ofLayer] of byLayer) {
      const at = layers[layer + level - 1];
      if (!at) continue;
      if (only === "layer") markLayer(moves, at, level, levels);
      else if (level === 1) markStretches(ofLayer, levels);
      else markAbove(moves, at, ofLayer, level, levels);
    }
  }
  return levels;
}

type Moves = ProgramTables["moves"];

function markLayer(moves: Moves, { firstPrintMove, lastMove }: Layer, level: number, levels: Uint8Array): void {
  for (let i = firstPrintMove; i <= lastMove; i++) if (laysMaterial(moves.kind[i])) levels[i] = level;
}

function markStretches(ofLayer: readonly Bridge[], levels: Uint8Array): void {
  for (const { stretches } of ofLayer) {
    for (const { firstMove, lastMove } of stretches) levels.fill(1, firstMove, lastMove + 1);
  }
}

/** Moves that lie over a bridge for the greater part. */
function markAbove(moves: Moves, layer: Layer, ofLayer: readonly Bridge[], level: number, levels: Uint8Array): void {
  const over = new LayerRaster();
  const all = ofLayer.flatMap(({ stretches }) => stretches);
  over.clearFor({
    minX: Math.min(...all.map(({ room }) => room.minX)),
    minY: Math.min(...all.map(({ room }) => room.minY)),
    maxX: Math.max(...all.map(({ room }) => room.maxX)),
    maxY: Math.max(...all.map(({ room }) => room.maxY)),
  });
  for (const { firstMove, lastMove, strand } of all) {
    for (let move = firstMove; move <= lastMove; move++) over.paint(moves, move, strand.widthMm * 1.3, 1);
  }
  for (const { firstMove, lastMove } of strandsOf(moves, layer)) {
    for (let move = firstMove; move <= lastMove; move++) {
      let [samples, above] = [0, 0];
      eachSample(moves, move, over.cellMm * 2, (x, y) => {
        samples++;
        above += over.at(x, y);
      });
      if (above > samples / 2) levels[move] = level;
    }
  }
}

/** By layer: the lines (from 0) from the first to the last move over air whose fan is asked for, and the lowest level among them. */
function fanRuns(ways: readonly OverAir[], { moves }: ProgramTables, levels: Uint8Array) {
  const runs = new Map<number, { first: number; last: number; level: number }>();
  for (let i = 0; i < moves.count; i++) {
    const level = levels[i];
    if (level === 0 || ways[level - 1].fan === undefined) continue;
    const known = runs.get(moves.layer[i]);
    if (!known) runs.set(moves.layer[i], { first: moves.line[i], last: moves.line[i], level });
    else known.last = moves.line[i];
    if (known && level < known.level) known.level = level;
  }
  return runs;
}

/** The fan from the first to the last move over air of a layer, and back to what the file has it at. */
class FanOverAir implements LineObserver {
  refusal: string | null = null;
  private readonly ends: ReturnType<typeof fanRuns>;
  /** The layer whose fan runs now; -1 for none. */
  private running = -1;
  private ownDuty = 0;
  private fan = 0;

  constructor(
    private readonly ways: readonly OverAir[],
    tables: ProgramTables,
    levels: Uint8Array,
    private readonly splices: LineSplices,
    private readonly printer: Printer,
    private readonly place: PlaceFinder,
  ) {
    this.ends = fanRuns(ways, tables, levels);
  }

  move(line: Line, _kind: number, _fed: number, _feed: number, state: Readonly<MachineState>): void {
    this.place.at(line.number);
    const { layer } = this.place;
    const ends = this.ends.get(layer);
    // The fan that blows on what is laid.
    this.fan = readingOf(this.printer).fanPerTool ? state.tool : 0;
    this.ownDuty = state.fanDuty[this.fan] ?? 0;
    const isOver = this.running >= 0 && line.number > this.ends.get(this.running)!.last;
    // Where the next run begins right behind the last one, nothing is said in between.
    const isNext = ends !== undefined && line.number >= ends.first && line.number <= ends.last;
    if (isOver) {
      if (!isNext) this.say((this.ownDuty * 100) / 255, line, "back to its own");
      this.running = -1;
    }
    if (isNext && this.running !== layer) {
      this.say(this.ways[ends.level - 1].fan!, line, "over air");
      this.running = layer;
    }
  }

  command(line: Line, code: string, _words: LineWords, _state: Readonly<MachineState>): void {
    // What the file itself tells its fan meanwhile holds afterwards; over air ours does.
    if (this.running >= 0 && (code === "M106" || code === "M107") && line.number <= this.ends.get(this.running)!.last) {
      this.running = -2;
    }
  }

  private say(percent: number, line: Line, why: string): void {
    const said = settingFor("fan").say(percent, this.printer, this.fan);
    if (!said.ok) this.refusal ??= said.message;
    else
      this.splices.before(
        line,
        said.value.map((text) => `${text} ; cuchara: fan ${why}`),
        this.place.layer,
      );
  }
}

function both(a: LineObserver, b: LineObserver): LineObserver {
  return {
    move(...seen) {
      a.move(...seen);
      b.move(...seen);
    },
    command(...seen) {
      a.command(...seen);
      b.command(...seen);
    },
  };
}
