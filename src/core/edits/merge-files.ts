/**
 * Two files of one layer grid as one print, each on a tool of its own: layer by layer, with one change of tool in each. What a layer lays
 * is the file's own bytes; between two layers stands what puts everything as that file counts on it. The end lines are those of the file
 * that lays last, in the state it left: its lifts are meant from the top of the print, its filament is counted on.
 */
import { follow } from "../gcode/follow";
import type { LineWords } from "../gcode/line-words";
import type { LineObserver, ProgramTables } from "../gcode/read";
import type { Line } from "../gcode/scan";
import { EventKind } from "../machine/event-kind";
import { readingOf } from "../machine/reading";
import { freshState, MachineState } from "../machine/state";
import { moveSeconds } from "../motion/duration";
import { limitsFor } from "../motion/limits";
import { refuse, Result, succeed } from "../result";
import { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { asCounted } from "./as-counted";
import type { SeenFile } from "./edit";
import { sayFanDuty } from "./fan-lines";
import { MovesMade, movesMadeIn } from "./moves-made";
import { drawnBehind, Standing, standingOf } from "./relay";

/** One of the two files. */
export interface MergedFile {
  name: string;
  tool: number;
  file: SeenFile;
  /** Its bytes from one to another. */
  bytes(from: number, to: number): Iterable<Uint8Array>;
}

export interface MergeRequest {
  /** How much cooler a tool waits than it lays, °C. */
  idleBelowC: number;
  /** Where the nozzle stands while tools are changed. */
  park: { x: number; y: number };
}

/** Layers further apart than this are others, mm. */
const SAME_HEIGHT_MM = 0.02;
/** Drawn back further while another tool is in, and lifted for the way, mm. Common practice, no source. */
const SWAP_MM = 4;
const LIFT_MM = 1;
/** An idle nozzle is told so much earlier than its heat takes by the printer's own rate, s. */
const AHEAD_S = 4;

const [M, T] = [77, 84];
const encoder = new TextEncoder();

/** Whether two files can be one print: the layers they have in common lie at the same heights, and each is of one tool. */
export function layersAgree(one: SeenFile, other: SeenFile): Result<number> {
  const [a, b] = [one.report.layers, other.report.layers];
  const common = Math.min(a.length, b.length);
  for (let i = 0; i < common; i++) {
    if (Math.abs(a[i].zMm - b[i].zMm) <= SAME_HEIGHT_MM) continue;
    return refuse(
      `Their layers do not agree: layer ${i + 1} is at ${plainNumber(a[i].zMm)} mm in one and at ${plainNumber(b[i].zMm)} mm in the other. Slice both with the same layers.`,
      "with",
    );
  }
  return succeed(common);
}

/** The merged program, chunk by chunk; refused with the field if the two cannot be one print on this printer. */
export function mergeFiles(
  pair: readonly [MergedFile, MergedFile],
  printer: Printer,
  request: MergeRequest,
): Result<Iterable<Uint8Array>> {
  const [first, second] = pair;
  if (first.tool === second.tool) return refuse("Each file needs a tool of its own.", "tools");
  const beyond = pair.find(({ tool }) => tool >= printer.tools);
  if (beyond) {
    return refuse(
      `Tool ${beyond.tool} is not there: ${printer.name} has ${printer.tools === 1 ? "one tool" : `${printer.tools} tools`}, counted from 0.`,
      "tools",
    );
  }
  const agree = layersAgree(first.file, second.file);
  if (!agree.ok) return agree;
  for (const { name, file, tool } of pair) {
    const problem = cannotMerge(file, tool);
    if (problem) return refuse(`“${name}” ${problem}`, "with");
  }
  const [a, b] = pair.map((one) => prepared(one, printer)) as [Prepared, Prepared];
  return succeed(pieces(a, b, printer, request));
}

function cannotMerge(file: SeenFile, tool: number): string | null {
  const { events } = file.tables();
  const [first] = file.report.layers;
  if (file.report.byVolume !== null) return `counts filament by its volume (M200), at line ${file.report.byVolume}.`;
  for (let i = 0; i < events.count; i++) {
    if (events.kind[i] === EventKind.tool && events.line[i] >= first.insertLine) {
      return `changes tools itself, at line ${events.line[i] + 1}: only files of one tool can be merged.`;
    }
  }
  let named = -1;
  file.walk(
    (line) => {
      const code = line.commandCount > 0 && line.letters[0] === M ? line.values[0] : NaN;
      const names = line.value(T);
      const isInside = line.number >= first.insertLine - 1 && line.number <= file.lastLayingLine();
      if (named < 0 && isInside && (code === 104 || code === 109) && !Number.isNaN(names) && names !== tool) {
        named = line.number;
      }
    },
    { moves: false },
  );
  if (named >= 0) return `heats another tool by name inside the print, at line ${named + 1}.`;
  if (file.report.start.every(({ settings }) => settings.nozzleTemperature === undefined)) {
    return "never says how hot the nozzle is, so its tool cannot be heated for it.";
  }
  return null;
}

interface Prepared extends MergedFile {
  /** What stands where each layer opens, and behind the last line that lays anything. */
  openings: Opening[];
  closing: Opening | null;
  /** Heat its tool lays a layer at, °C. */
  heatC(layer: number): number;
  /** The byte behind the last line that lays anything, and where a line opens from which so many seconds of the layer are left. */
  endByte: number;
  byteWithLeft(layer: number, seconds: number): number;
}

interface Opening {
  at: Standing;
  fanDuty: number;
  nozzleC: number;
  /** What the file has said of how its moves are made; NaN where it has said nothing. */
  ways: MovesMade;
}

/** Notes what the machine holds where each layer opens. */
class OpeningKeeper implements LineObserver {
  readonly openings: Opening[] = [];
  closing: Opening | null = null;
  private now: Opening | null = null;
  private ways = movesMadeIn(freshState());

  constructor(
    private readonly layers: readonly { insertLine: number }[],
    private readonly lastLayingLine: number,
    private readonly fanPerTool: boolean,
  ) {}

  move(line: Line, kind: number, fedMm: number, _feed: number, state: Readonly<MachineState>): void {
    this.pass(line);
    this.keep(standingOf(state, drawnBehind(this.now?.at.drawnMm ?? 0, kind, fedMm)), state);
  }

  command(line: Line, _code: string, _words: LineWords, state: Readonly<MachineState>): void {
    this.pass(line);
    this.ways = movesMadeIn(state);
    this.keep(standingOf(state, this.now?.at.drawnMm ?? 0), state);
  }

  private keep(at: Standing, state: Readonly<MachineState>): void {
    const fan = this.fanPerTool ? state.tool : 0;
    this.now = {
      at,
      fanDuty: state.fanDuty[fan] ?? 0,
      nozzleC: state.nozzleC[state.tool] ?? 0,
      ways: this.ways,
    };
  }

  private pass(line: Line): void {
    const layer = this.layers[this.openings.length];
    if (layer && line.number >= layer.insertLine - 1 && this.now) this.openings.push(this.now);
    if (line.number > this.lastLayingLine) this.closing ??= this.now;
  }
}

function prepared(one: MergedFile, printer: Printer): Prepared {
  const { file } = one;
  const { layers } = file.report;
  const last = file.lastLayingLine();
  const keeper = new OpeningKeeper(layers, last, readingOf(printer).fanPerTool);
  file.follow(keeper);
  const tables = file.tables();
  const seconds = moveSeconds(tables.moves, tables.events, limitsFor(printer));
  let endByte = file.report.bytes;
  const startOf = new Float64Array(file.report.lines + 1);
  file.walk(
    (line) => {
      if (line.number === last) endByte = line.endByte;
      startOf[line.number] = line.startByte;
    },
    { moves: true },
  );
  return {
    ...one,
    openings: keeper.openings,
    closing: keeper.closing,
    endByte,
    heatC: (layer) =>
      keeper.openings[layer]?.nozzleC || keeper.openings.findLast(({ nozzleC }) => nozzleC > 0)?.nozzleC || 0,
    byteWithLeft: (layer, wanted) => placeWithLeft(tables, layer, wanted, seconds, startOf, layers[layer].insertByte),
  };
}

/** The byte of the line in a layer behind which about so many seconds are left; where it opens if it is shorter. */
function placeWithLeft(
  { moves, layers }: ProgramTables,
  layer: number,
  wanted: number,
  seconds: Float32Array,
  startOf: Float64Array,
  opens: number,
): number {
  const { firstMove, lastMove } = layers[layer];
  let left = 0;
  for (let i = lastMove; i > firstMove; i--) {
    left += seconds[i];
    if (left >= wanted && moves.line[i] !== moves.line[i - 1]) return startOf[moves.line[i]] || opens;
  }
  return opens;
}

function* pieces(a: Prepared, b: Prepared, printer: Printer, request: MergeRequest): Generator<Uint8Array> {
  const say = (lines: readonly string[]) => encoder.encode(lines.map((line) => line + a.file.report.lineEnd).join(""));
  const count = Math.max(a.openings.length, b.openings.length);
  // The first file's own start: it homes, heats the bed and its own tool.
  yield say([`; cuchara: ${a.name} on tool ${a.tool}, ${b.name} on tool ${b.tool}`, ...startOf(a, b)]);
  yield* a.bytes(0, a.file.report.layers[0].insertByte);
  yield say([`M104 S${plainNumber(b.heatC(0))} T${b.tool}`]);
  let current: Prepared = a;
  let isFirstOfAll = true;
  let last: { one: Prepared | null; layer: number } = { one: null, layer: -1 };
  const wasIn = new Set<Prepared>();
  for (let layer = 0; layer < count; layer++) {
    const order = (current === a ? [a, b] : [b, a]).filter(({ openings }) => layer < openings.length);
    // Counted in front of both tools, so that whoever reads the print finds its layers whole.
    yield say([`; layer ${layer + 1} of ${count}`]);
    for (const [turn, one] of order.entries()) {
      let between: string[] = [];
      if (one !== current || isFirstOfAll) {
        if (one !== current) between = change(current, one, layer, wasIn.has(one), printer, request);
        else if (one.tool !== one.openings[0].at.tool) between = ownTool(one);
        current = one;
      }
      // Where it only goes on, nothing stands in between.
      if (last.one && !(last.one === one && last.layer === layer - 1)) {
        const now = stateBehind(last.one, last.layer, between, printer);
        // The fan of a tool that was in before blows as it did.
        if (wasIn.has(one) && readingOf(printer).fanPerTool) now.fanDuty[one.tool] = one.openings[layer].fanDuty;
        between = [...between, ...goOn(one, layer, now, printer)];
      }
      if (between.length > 0) yield say(between);
      last = { one, layer };
      isFirstOfAll = false;
      wasIn.add(one);
      const next = order[turn + 1] ?? (layer + 1 < count ? other(one, a, b, layer + 1) : null);
      yield* body(one, layer, next !== one ? next : null, request, printer, say);
    }
  }
  const ends = last.one ?? a;
  yield* ends.bytes(ends.endByte, ends.file.report.bytes);
  const off = [a, b].map(({ tool }) => `M104 S0 T${tool}`);
  const { fanPerTool } = readingOf(printer);
  const fans = fanPerTool ? [a, b].map(({ tool }) => ({ index: tool, isNamed: true })) : [{ index: 0, isNamed: false }];
  const still = fans.flatMap((fan) => sayFanDuty(0, printer, fan));
  yield say(["; cuchara: every heater and fan off", ...off, "M140 S0", ...still]);
}

/** What a file's start heated and took up may be another tool than the one that lays it here. */
const ownTool = (one: Prepared): string[] => [`T${one.tool}`, `M109 S${plainNumber(one.heatC(0))} T${one.tool}`];

/** Who lays first in a layer, if it is another than who laid last. */
function other(one: Prepared, a: Prepared, b: Prepared, layer: number): Prepared | null {
  if (layer < one.openings.length) return one;
  const rest = one === a ? b : a;
  return layer < rest.openings.length ? rest : null;
}

/** Tools of the first file's start: it is heated by name where it names none. */
function startOf(a: Prepared, b: Prepared): string[] {
  return a.tool === 0 ? [] : [`T${a.tool}`, `; cuchara: tool ${b.tool} comes in later`];
}

/** One layer of a file as it is; the tool that comes next is told its heat on the way. */
function* body(
  one: Prepared,
  layer: number,
  next: Prepared | null,
  { idleBelowC }: MergeRequest,
  { heaterRiseCPerS }: Printer,
  say: (lines: readonly string[]) => Uint8Array,
): Generator<Uint8Array> {
  const { layers } = one.file.report;
  const from = layers[layer].insertByte;
  const to = layers[layer + 1]?.insertByte ?? one.endByte;
  if (!next || idleBelowC === 0) {
    yield* one.bytes(from, to);
    return;
  }
  const early = Math.min(to, Math.max(from, one.byteWithLeft(layer, idleBelowC / heaterRiseCPerS + AHEAD_S)));
  yield* one.bytes(from, early);
  const nextLayer = Math.min(next.openings.length - 1, layer + (next.openings.length > layer ? 0 : 1));
  yield say([`M104 S${plainNumber(next.heatC(nextLayer))} T${next.tool} ; cuchara: told early`]);
  yield* one.bytes(early, to);
}

/** From one tool to another: drawn back, lifted, parked, changed, waited for, and given back. */
function change(
  from: Prepared,
  to: Prepared,
  layer: number,
  wasIn: boolean,
  printer: Printer,
  { idleBelowC, park }: MergeRequest,
): string[] {
  const heatC = to.heatC(layer);
  // What its file has drawn back there is given back by its own next line.
  const { drawnMm } = to.openings[layer].at;
  const liftMm =
    LIFT_MM +
    Math.max(...[from, to].map(({ file }) => file.report.layers[Math.min(layer, file.report.layers.length - 1)].zMm));
  return [
    `; cuchara: tool ${to.tool}`,
    "G21",
    "G90",
    "M83",
    `G1 E-${SWAP_MM} F1800`,
    `G0 Z${plainNumber(Math.min(printer.buildHeightMm, liftMm))} F600`,
    `G0 X${plainNumber(park.x)} Y${plainNumber(park.y)} F6000`,
    ...(idleBelowC > 0 ? [`M104 S${plainNumber(from.heatC(layer) - idleBelowC)} T${from.tool}`] : []),
    `T${to.tool}`,
    `M109 S${plainNumber(heatC)} T${to.tool}`,
    ...(wasIn ? [`G1 E${SWAP_MM} F1800`] : drawnMm > 0.01 ? [`G1 E-${plainNumber(drawnMm)} F1800`] : []),
  ];
}

/** What the machine holds behind a layer of a file and some lines. */
function stateBehind(one: Prepared, layer: number, lines: readonly string[], printer: Printer): MachineState {
  const state = stateAt(one.openings[layer + 1] ?? one.closing ?? one.openings[layer], one, printer);
  for (const line of lines) follow(state, line, readingOf(printer));
  return state;
}

/** Puts everything as a file counts on it where a layer of it opens. */
function goOn(one: Prepared, layer: number, now: MachineState, printer: Printer): string[] {
  const opening = one.openings[layer];
  const own = stateAt(opening, one, printer);
  const { zMm } = one.file.report.layers[layer];
  // Of the other tool and of the bed this file says nothing: they stay as they are.
  const ofTool = (is: readonly number[], wanted: readonly number[]) =>
    Object.assign([...is], { [one.tool]: wanted[one.tool] ?? NaN });
  const wanted: MachineState = {
    ...own,
    // The other one may have laid this layer already.
    z: Math.max(own.z, zMm),
    bedC: now.bedC,
    nozzleC: now.nozzleC,
    fanDuty: readingOf(printer).fanPerTool ? ofTool(now.fanDuty, own.fanDuty) : own.fanDuty,
    flowPercent: ofTool(now.flowPercent, own.flowPercent),
    pressureAdvanceS: ofTool(now.pressureAdvanceS, own.pressureAdvanceS),
    // What is drawn back is the business of the change between the tools.
    drawnBack: now.drawnBack,
  };
  const bringing = { waits: false, overMm: zMm + LIFT_MM };
  return asCounted({ state: now, drawnMm: 0 }, { state: wanted, drawnMm: 0 }, printer, bringing);
}

/** What a file counts on at an opening, of the tool that lays it here. */
function stateAt({ at, fanDuty, nozzleC, ways }: Opening, { tool }: MergedFile, printer: Printer): MachineState {
  const state = freshState();
  const { x, y, z, unitMm, relative, relativeE, offsetX, offsetY, offsetZ, feedMmMin } = at;
  Object.assign(state, { x, y, z, unitMm, relative, relativeE, offsetX, offsetY, offsetZ, feedMmMin, tool });
  state.e = at.e * unitMm;
  state.nozzleC[tool] = nozzleC;
  state.fanDuty[readingOf(printer).fanPerTool ? tool : 0] = fanDuty;
  state.printAccelerationMmS2 = ways.acceleration;
  state.jerkMmS.x = ways.jerk;
  state.junctionDeviationMm = ways.junctionDeviation;
  state.speedPercent = ways.speedFactor;
  state.flowPercent[tool] = ways.flowFactor;
  state.pressureAdvanceS[tool] = ways.pressureAdvance;
  return state;
}
