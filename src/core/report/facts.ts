/** What checks must know of a whole program, found in one pass over its tables: few figures, whatever its size. */
import { EventKind, laysMaterial, MoveKind } from "../gcode/moves";
import { isNamed } from "../gcode/line-words";
import { ProgramTables } from "../gcode/tables";
import { COLDEST_FEED_C } from "../material/materials";

/** A figure and the line (from 1) it stands in. */
export interface FactAt {
  value: number;
  line: number;
}

/** A place the nozzle comes to, mm, and the line (from 1). */
export interface Reach {
  x: number;
  y: number;
  line: number;
}

/** One tool of a program. */
export interface ToolFacts {
  tool: number;
  lays: boolean;
  /** Its filament is first pushed through a nozzle set to less than it takes to melt. */
  coldFeed: FactAt | null;
  /** It lays while its own fan stands still and another one turns; `value` is that other one. */
  fanElsewhere: FactAt | null;
  /** The program says where it stands from the first. */
  hasOffset: boolean;
}

export interface ProgramFacts {
  /** Null where it is never set. */
  hottestNozzle: FactAt | null;
  hottestBed: FactAt | null;
  /** The farthest places in 36 directions, where material is laid and where the nozzle only goes; homing left out. */
  laid: Reach[];
  travelled: Reach[];
  /** Height of the nozzle, mm; null where it never moves. */
  highest: FactAt | null;
  lowest: FactAt | null;
  highestLaid: FactAt | null;
  /** Filament is first pushed through a nozzle set to less than it takes to melt; `value` is what it was set to. */
  coldFeed: FactAt | null;
  /** The longest way over which filament is drawn back while the nozzle goes along, mm, with the line where it begins. */
  drawnAlong: FactAt | null;
  /** Material is first laid without the nozzle's heat ever having been waited for. */
  unwaited: FactAt | null;
  /** Commands that are not known stand before the first material: what they heat nobody can say. */
  unknownCommands: boolean;
  /** One of them stands behind everything that is laid: it may switch off what seems to be left on. */
  unknownAtEnd: boolean;
  /** Waiting temperature changes between the layers. */
  waitsInside: { count: number; line: number } | null;
  /** Tools that lay material. */
  layingTools: number[];
  /** What is to be known of each tool that is heated, chosen or lays. */
  tools: ToolFacts[];
  /** What is on when the program has ended: °C by tool, °C, fans that turn, motors. */
  leftOn: { nozzles: { tool: number; valueC: number }[]; bedC: number; fans: number[]; motors: boolean };
}

const DIRECTIONS = 18;
const cosines = Float64Array.from({ length: DIRECTIONS }, (_, i) => Math.cos((i * Math.PI) / DIRECTIONS));
const sines = Float64Array.from({ length: DIRECTIONS }, (_, i) => Math.sin((i * Math.PI) / DIRECTIONS));

/** The farthest moves in 36 directions: a convex outline that is right to half a percent, and exact along X and Y. */
class Outline {
  private readonly most = new Float64Array(2 * DIRECTIONS).fill(-Infinity);
  private readonly moves = new Int32Array(2 * DIRECTIONS).fill(-1);
  /** A box that is surely inside: nearly all places are, and need no further look. */
  private insideMinX = Infinity;
  private insideMaxX = -Infinity;
  private insideMinY = Infinity;
  private insideMaxY = -Infinity;
  /** The farthest places towards the four corners, X and Y each. */
  private readonly corners = new Float64Array(8);
  private readonly cornerFar = new Float64Array(4).fill(-Infinity);

  add(x: number, y: number, move: number): void {
    if (x >= this.insideMinX && x <= this.insideMaxX && y >= this.insideMinY && y <= this.insideMaxY) return;
    this.widen(x, y, move);
  }

  private widen(x: number, y: number, move: number): void {
    const { most, moves, corners, cornerFar } = this;
    for (let corner = 0; corner < 4; corner++) {
      const far = (corner & 1 ? -x : x) + (corner & 2 ? -y : y);
      if (far <= cornerFar[corner]) continue;
      cornerFar[corner] = far;
      corners[2 * corner] = x;
      corners[2 * corner + 1] = y;
      // Right back, left back, right front, left front.
      this.insideMaxX = Math.min(corners[0], corners[4]);
      this.insideMinX = Math.max(corners[2], corners[6]);
      this.insideMaxY = Math.min(corners[1], corners[3]);
      this.insideMinY = Math.max(corners[5], corners[7]);
    }
    for (let i = 0; i < DIRECTIONS; i++) {
      const far = x * cosines[i] + y * sines[i];
      if (far > most[i]) {
        most[i] = far;
        moves[i] = move;
      }
      if (-far > most[DIRECTIONS + i]) {
        most[DIRECTIONS + i] = -far;
        moves[DIRECTIONS + i] = move;
      }
    }
  }

  places({ x, y, line }: ProgramTables["moves"]): Reach[] {
    return [...new Set(this.moves)].filter((i) => i >= 0).map((i) => ({ x: x[i], y: y[i], line: line[i] + 1 }));
  }
}

/** The tools of a program as they come up. */
class ToolsSeen {
  private readonly seen = new Map<number, ToolFacts>();

  of(tool: number): ToolFacts {
    let known = this.seen.get(tool);
    if (!known) {
      known = { tool, lays: false, coldFeed: null, fanElsewhere: null, hasOffset: false };
      this.seen.set(tool, known);
    }
    return known;
  }

  all(): ToolFacts[] {
    return [...this.seen.values()].sort((a, b) => a.tool - b.tool);
  }
}

/** A tool lays: whether its own fan stands still while another one turns. */
function noteFan(facts: ToolFacts, fans: ReadonlyMap<number, number>, line: number): void {
  if (fans.get(facts.tool)! > 0) return;
  const [other] = [...fans].find(([index, duty]) => index !== facts.tool && duty > 0) ?? [];
  if (other !== undefined) facts.fanElsewhere = { value: other, line };
}

/** Finds the facts of a program that was read. */
export function factsOf(tables: ProgramTables): ProgramFacts {
  const { moves, events, layers, unknown } = tables;
  const laid = new Outline();
  const travelled = new Outline();
  let highest = -1;
  let lowest = -1;
  let highestLaid = -1;
  let drawnAlong: FactAt | null = null;
  /** The way of the moves that draw back, one behind the other, and the first of them. */
  let drawnMm = 0;
  let drawnFrom = 0;
  let coldFeed: FactAt | null = null;
  let unwaited: FactAt | null = null;
  let hottestNozzle: FactAt | null = null;
  let hottestBed: FactAt | null = null;
  let waitsInside: ProgramFacts["waitsInside"] = null;
  const setC = new Map<number, number>();
  const waited = new Set<number>();
  const fans = new Map<number, number>();
  const tools = new ToolsSeen();
  /** The tool in use, and whether anything of it may still be found: this is asked at every move. */
  let current = tools.of(0);
  const layingTools = new Set<number>();
  let bedC = 0;
  let motors = true;
  let tool = 0;
  let event = 0;
  let began = false;
  /** The tool in use is set to what filament takes to melt. */
  let hot = false;
  let lastLaying = -1;
  const lastMove = layers.at(-1)?.lastMove ?? -1;
  const hotter = (now: FactAt | null, value: number, line: number) =>
    now === null || value > now.value ? { value, line: line + 1 } : now;
  const take = () => {
    const value = events.value[event];
    const line = events.line[event];
    const index = events.tool[event];
    const kind = events.kind[event];
    const isWait = kind === EventKind.nozzleTemperatureWait || kind === EventKind.bedTemperatureWait;
    if (isWait && began && events.move[event] <= lastMove) {
      waitsInside = { count: (waitsInside?.count ?? 0) + 1, line: waitsInside?.line ?? line + 1 };
    }
    switch (kind) {
      case EventKind.nozzleTemperature:
      case EventKind.nozzleTemperatureWait:
        setC.set(index, value);
        if (value > 0) tools.of(index);
        if (isWait) waited.add(index);
        hottestNozzle = hotter(hottestNozzle, value, line);
        break;
      case EventKind.bedTemperature:
      case EventKind.bedTemperatureWait:
        bedC = value;
        hottestBed = hotter(hottestBed, value, line);
        break;
      case EventKind.fan:
        fans.set(index, value);
        break;
      case EventKind.motorsOff:
      case EventKind.someMotorsOff:
        motors = false;
        break;
      case EventKind.motorsOn:
        motors = true;
        break;
      case EventKind.toolOffset:
        tools.of(index).hasOffset = true;
        break;
      case EventKind.tool:
        tool = value;
        current = tools.of(tool);
    }
    hot = (setC.get(tool) ?? 0) >= COLDEST_FEED_C;
    event++;
  };
  for (let i = 0; i < moves.count; i++) {
    while (event < events.count && events.move[event] <= i) take();
    const kind = moves.kind[i];
    if (kind === MoveKind.home) continue;
    const lays = laysMaterial(kind);
    if (moves.filamentMm[i] > 1e-6) drawnMm = 0;
    else if (moves.filamentMm[i] < -1e-6 && i > 0) {
      const alongMm = Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
      if (drawnMm === 0) drawnFrom = i;
      drawnMm += alongMm;
      if (drawnMm > (drawnAlong?.value ?? 0)) drawnAlong = { value: drawnMm, line: moves.line[drawnFrom] + 1 };
    }
    if (!hot && moves.filamentMm[i] > 1e-6 && coldFeed === null) {
      coldFeed = { value: setC.get(tool) ?? 0, line: moves.line[i] + 1 };
    }
    if (!hot && moves.filamentMm[i] > 1e-6 && current.coldFeed === null) {
      current.coldFeed = { value: setC.get(tool) ?? 0, line: moves.line[i] + 1 };
    }
    if (kind === MoveKind.retract || kind === MoveKind.restore) continue;
    const z = moves.z[i];
    if (highest < 0 || z > moves.z[highest]) highest = i;
    if (lowest < 0 || z < moves.z[lowest]) lowest = i;
    if (!lays) {
      travelled.add(moves.x[i], moves.y[i], i);
      continue;
    }
    laid.add(moves.x[i], moves.y[i], i);
    if (i > 0 && !laysMaterial(moves.kind[i - 1])) laid.add(moves.x[i - 1], moves.y[i - 1], i);
    if (highestLaid < 0 || z > moves.z[highestLaid]) highestLaid = i;
    if (moves.layer[i] >= 0) began = true;
    current.lays = true;
    if (current.fanElsewhere === null && fans.size > 1) noteFan(current, fans, moves.line[i] + 1);
    if (lastLaying === tool) continue;
    lastLaying = tool;
    layingTools.add(tool);
    if (unwaited === null && waited.size === 0) unwaited = { value: setC.get(tool) ?? 0, line: moves.line[i] + 1 };
  }
  while (event < events.count) take();
  const heightAt = (i: number): FactAt | null => (i < 0 ? null : { value: moves.z[i], line: moves.line[i] + 1 });
  return {
    hottestNozzle,
    hottestBed,
    laid: laid.places(moves),
    travelled: travelled.places(moves),
    highest: heightAt(highest),
    lowest: heightAt(lowest),
    highestLaid: heightAt(highestLaid),
    coldFeed,
    drawnAlong,
    unwaited,
    unknownCommands: unknown.some(({ command }) => isNamed(command)),
    unknownAtEnd: layers.length > 0 && tables.lastUnknownMove > layers[layers.length - 1].lastMove,
    waitsInside,
    layingTools: [...layingTools].sort((a, b) => a - b),
    tools: tools.all(),
    leftOn: {
      nozzles: [...setC].filter(([, valueC]) => valueC > 0).map(([index, valueC]) => ({ tool: index, valueC })),
      bedC,
      fans: [...fans].filter(([, duty]) => duty > 0).map(([index]) => index),
      motors,
    },
  };
}
