/**
 * Reads a whole program: keeps the machine's state line by line and fills the move table, the events and the layers. What a command
 * means stands in the command table (`machine/commands`); straight moves and arcs have their loop here, because a program is
 * little else. G0–G3 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556).
 */
import { hasCommand, Tell } from "../machine/command";
import { commandFor, commandForNumber } from "../machine/commands";
import { EventKind } from "../machine/event-kind";
import { Reading, usualReading } from "../machine/reading";
import { flowShare, freshState, MachineState, mmPerE, MOST_TOOLS, takeTold } from "../machine/state";
import { feedMmMinToMmS } from "../units";
import { MOST_EVENTS } from "./bounds";
import { arcFromCentre, arcFromRadius, arcSegments } from "./arcs";
import { isCucharaComment } from "./comments";
import { EQuestion } from "./e-question";
import { LayerTracker } from "./layers";
import { isNamed, LineWords, nameOf } from "./line-words";
import { MarkerFinder } from "./markers";
import { EventTableBuilder, MoveKind, MoveTableBuilder } from "./moves";
import { SaidKindFinder } from "./said-kinds";
import { SayingTableBuilder } from "./sayings";
import { Line, LineScanner, PlainMove } from "./scan";
import { AssumedE, CucharaLine, ProgramTables } from "./tables";

export type { AssumedE, CucharaLine, ProgramTables } from "./tables";

const [X, Y, Z, E, F, I, J, K, R, T, G, M] = "XYZEFIJKRTGM".split("").map((letter) => letter.charCodeAt(0));

/** So many different commands that are not known are told apart. */
const MOST_UNKNOWN = 200;
/** Chords that arcs may become in one program; behind that each is cut into two, so that a small file cannot become a large table. */
const MOST_ARC_MOVES = 8_000_000;
/** Drawing back and feeding less than this is nothing, mm. */
const NOTHING_FED_MM = 1e-6;
const STILL_DRAWN_MM = 1e-4;

/** Hardly any program has moves in shorter lines than this on average. */
const SHORT_LINE_BYTES = 16;

/** What a print is set up by: it belongs in front of the first layer, wherever the nozzle went before. */
const setsUp: ReadonlySet<EventKind> = new Set([
  EventKind.nozzleTemperature,
  EventKind.nozzleTemperatureWait,
  EventKind.bedTemperature,
  EventKind.bedTemperatureWait,
  EventKind.tool,
]);

/** How figures of places count: told apart where the first layer is looked for. */
function howItCounts({ relative, relativeE, unitMm, offsetX, offsetY, offsetZ }: MachineState): string {
  return `${relative} ${relativeE} ${unitMm} ${offsetX} ${offsetY} ${offsetZ}`;
}

/** Hears the lines of a program as they are read, with the state they leave. Copy what must last. */
export interface LineObserver {
  /**
   * A straight move or an arc.
   *
   * @param fedMm filament, negative when drawn back; @param kind see `MoveKind`; @param feedBeforeMmMin in force before the line
   */
  move(line: Line, kind: number, fedMm: number, feedBeforeMmMin: number, state: Readonly<MachineState>): void;
  /** Any other command of the table. */
  command(line: Line, code: string, words: LineWords, state: Readonly<MachineState>): void;
}

export interface ReaderOptions {
  /** How the printer reads; what most do where it is left out. */
  reading?: Reading;
  /** Whether the program's own figures may say otherwise than `reading`; they may unless it was written for that printer here. */
  asksProgram?: boolean;
  observer?: LineObserver;
  /** The last line (from 0) that is obeyed; those behind it are only asked how figures count. All of them if left out. */
  lastLine?: number;
}

export class ProgramReader {
  private readonly scanner = new LineScanner(
    (line) => this.take(line),
    (move, number, startByte) => this.takePlainMove(move, number, startByte),
  );
  private readonly words = new LineWords(this.scanner.line);
  private readonly moves: MoveTableBuilder;
  private readonly events = new EventTableBuilder();
  private readonly sayings = new SayingTableBuilder(MOST_EVENTS);
  /** How many quantities were told. */
  private told = 0;
  private readonly tracker = new LayerTracker();
  private readonly markerFinder = new MarkerFinder();
  private readonly kindFinder = new SaidKindFinder();
  private readonly cucharaLines: CucharaLine[] = [];
  private readonly unknown = new Map<string, number>();
  private readonly filamentPerTool = new Float64Array(MOST_TOOLS);
  private lastUnknownMove = -1;
  private binaryBytes = 0;
  private damagedLines = 0;
  private arcMoves = 0;

  private readonly state: MachineState = freshState();
  private flow = 1;
  private mmPerE = 1;
  /** The line at which filament began to be counted by volume. */
  private byVolume: number | null = null;
  private speed = feedMmMinToMmS(this.state.feedMmMin);
  /** Filament drawn back and not yet restored by tool, so that restoring is told from printing. */
  private readonly drawnBackMm = new Float64Array(MOST_TOOLS);
  /** What a lean restart left owing: the next filament fed fills that gap first. */
  private readonly owedMm = new Float64Array(MOST_TOOLS);
  private retractionUnsaid = false;

  private reading: Reading;
  /** E was told to be relative by M83 itself, and whether G90 changed that is not known. */
  private relativeByM83 = false;
  private asks: boolean;
  private question: EQuestion | null = null;
  private assumedE: AssumedE | null = null;
  private readonly observer: LineObserver | null;
  private readonly lastLine: number;

  /** The command that is obeyed heats, or takes up a tool. */
  private hasSetUp = false;
  private line: Line = this.scanner.line;
  private readonly tell: Tell = (kind, value, index) => {
    takeTold(this.state, kind, value, index);
    this.told++;
    this.hasSetUp ||= setsUp.has(kind);
    // Indexes that no printer has would only make tables of tools grow.
    if (!(index >= 0 && index < MOST_TOOLS) || this.events.count >= MOST_EVENTS) return;
    this.events.add(kind, value, index, this.moves.count, this.line);
    if (kind === EventKind.speedFactor || kind === EventKind.flowFactor || kind === EventKind.tool) this.takeFactors();
  };

  /** @param expectedBytes size of the program, if it is known: saves memory while a large one is read */
  constructor(
    expectedBytes = 0,
    { reading = usualReading, asksProgram = true, observer, lastLine = Infinity }: ReaderOptions = {},
  ) {
    this.moves = new MoveTableBuilder(expectedBytes / SHORT_LINE_BYTES);
    this.reading = reading;
    this.asks = asksProgram;
    this.observer = observer ?? null;
    this.lastLine = lastLine;
  }

  /** Takes the next bytes of the program. */
  push(chunk: Uint8Array): void {
    // A NUL tells text from anything else; looking for it costs one native search a chunk.
    for (let at = chunk.indexOf(0); at >= 0 && this.binaryBytes < 64; at = chunk.indexOf(0, at + 1)) this.binaryBytes++;
    this.scanner.push(chunk);
  }

  /** Bytes taken so far. */
  get byteCount(): number {
    return this.scanner.byteCount;
  }

  /** Whether everything up to the last line that is asked for was obeyed. */
  get isBehindLastLine(): boolean {
    return this.question === null && this.scanner.lineCount > this.lastLine + 1;
  }

  /** Ends the program and hands over its tables. The reader cannot be used again. */
  finish(): ProgramTables {
    this.scanner.end();
    // What is held back is read to the end, however often it asks anew.
    while (this.question) this.settleQuestion();
    const moves = this.moves.take();
    const { layers, markers, printFrom } = this.tracker.finish(moves, this.markerFinder);
    return {
      lineCount: this.scanner.lineCount,
      byteCount: this.scanner.byteCount,
      lineEnd: this.scanner.lineEnd,
      moves,
      events: this.events.take(),
      sayings: this.sayings.take(),
      layers,
      markers,
      printFrom,
      saidKinds: this.kindFinder.take(),
      cucharaLines: this.cucharaLines,
      filamentPerToolMm: usedTools(this.filamentPerTool),
      unknown: [...this.unknown].map(([command, count]) => ({ command, count })),
      lastUnknownMove: this.lastUnknownMove,
      binaryBytes: this.binaryBytes,
      overlongLines: this.scanner.overlongLines,
      damagedLines: this.damagedLines,
      assumedE: this.assumedE,
      retractionUnsaid: this.retractionUnsaid,
      byVolume: this.byVolume,
      endState: this.state,
    };
  }

  private take(line: Line): void {
    if (this.question !== null) {
      const endsIt = line.commandCount > 0 && line.letters[0] === M && (line.values[0] === 82 || line.values[0] === 83);
      if (this.question.hold(line) || endsIt) this.settleQuestion();
      return;
    }
    if (line.number > this.lastLine) return;
    this.line = line;
    if (line.damaged) this.damagedLines++;
    if (line.commentFrom >= 0) this.takeComment(line);
    if (line.named) {
      this.takeNamed(line);
      return;
    }
    if (line.wordCount === 0) return;
    if (line.commandCount <= 1) {
      this.command(line, 0, line.wordCount);
      return;
    }
    // Several commands on one line (`G90 G1 X5`): each has the words up to the next.
    let from = 0;
    for (let i = 1; i <= line.wordCount; i++) {
      const isCommand = i < line.wordCount && (line.letters[i] === G || line.letters[i] === M);
      if (i === line.wordCount || isCommand) {
        this.command(line, from, i);
        from = i;
      }
    }
  }

  private takeComment(line: Line): void {
    if (isCucharaComment(line.bytes, line.commentFrom, line.commentTo)) {
      const { number, startByte, endByte } = line;
      this.cucharaLines.push({ line: number, startByte, endByte, text: line.text() });
      return;
    }
    if (line.named) return;
    const isBehind = line.wordCount > 0;
    this.kindFinder.see(line, this.moves.count, isBehind);
    if (!isBehind) this.markerFinder.see(line, this.moves.count, this.tracker.stretchCount);
  }

  private command(line: Line, from: number, to: number): void {
    const letter = line.letters[from];
    const code = line.values[from];
    if (letter === G && (code === 1 || code === 0)) {
      this.state.motion = code;
      this.straight(line, from + 1, to);
    } else if (letter === G && (code === 2 || code === 3)) {
      this.state.motion = code;
      this.arc(line, from + 1, to, code === 2);
    } else if (letter === G || letter === M) {
      this.obey(line, commandForNumber(letter, code), from + 1, to, letter === G ? "G" : "M", code);
    } else if (letter === T) {
      if (Number.isInteger(code) && code >= 0) this.obey(line, commandFor(`T${code}`), from + 1, to, "T", code);
    } else if (letter === X || letter === Y || letter === Z || letter === E || letter === F) {
      // RS274: a line of axis words alone repeats the motion in force.
      if (this.state.motion <= 1) this.straight(line, from, to);
      else this.arc(line, from, to, this.state.motion === 2);
    }
  }

  /** Everything but straight moves and arcs: the command table says what it does. */
  private obey(
    line: Line,
    command: ReturnType<typeof commandFor>,
    from: number,
    to: number,
    letter: string,
    code: number,
  ): void {
    if (!command || !hasCommand(command, this.reading)) {
      this.passOver(Number.isNaN(code) ? letter : `${letter}${code}`);
      return;
    }
    const words = this.words.set(line, from, to);
    const { relativeE: wasRelativeE, drawnBack: wasDrawnBack } = this.state;
    const countedBefore = this.tracker.started ? "" : howItCounts(this.state);
    const toldBefore = this.told;
    command.act?.(this.state, words, this.tell, this.reading);
    if (this.told === toldBefore) this.sayings.see(line, command.code, this.moves.count);
    if (letter === "M" && (code === 82 || code === 83)) this.relativeByM83 = code === 83;
    else if (letter === "M" && code === 200) this.takeVolume(line);
    else if (letter === "G" && code === 90 && this.relativeByM83 && wasRelativeE) this.ask(line);
    if (command.moves === "home") {
      this.tracker.travel(line.startByte, line.number);
      this.addMove(0, MoveKind.home, line.number);
    } else if (this.state.drawnBack !== wasDrawnBack) this.firmwareMove(this.state.drawnBack, line);
    // Before anything is laid, a change must stand behind what heats, homes and takes up a tool.
    if (!this.tracker.started) {
      if (command.moves === "home" || this.hasSetUp) this.tracker.forgetTravel();
      else if (countedBefore !== howItCounts(this.state)) this.tracker.countAnew(countedBefore);
      this.hasSetUp = false;
    }
    this.observer?.command(line, command.code, words, this.state);
  }

  /** G90 behind M83: what it did to E is asked of the lines that follow, where that is allowed. */
  private ask(line: Line): void {
    if (this.asks) this.question = new EQuestion(line.number);
  }

  private settleQuestion(): void {
    const { question } = this;
    if (!question) return;
    this.question = null;
    const { answer, matters, line } = question;
    if (answer !== "unclear") {
      // Whatever printer it was written for: it counts like this throughout.
      this.asks = false;
      this.reading = { ...this.reading, modesCarryE: answer === "absolute" };
      this.assumedE = { line: this.assumedE?.line ?? line, relative: answer === "relative", told: true };
    }
    this.state.relativeE = !this.reading.modesCarryE;
    if (matters) this.assumedE ??= { line, relative: this.state.relativeE, told: false };
    question.release((line) => this.take(line));
  }

  private takeVolume(line: Line): void {
    this.takeFactors();
    if (this.state.volumeDiameterMm.some((diameterMm) => diameterMm > 0)) this.byVolume ??= line.number;
    else if (!this.tracker.started) this.byVolume = null;
  }

  private takeFactors(): void {
    this.flow = flowShare(this.state);
    this.mmPerE = mmPerE(this.state);
    this.speed = feedMmMinToMmS(this.state.feedMmMin) * (this.state.speedPercent / 100);
  }

  /** A straight move that needs no look at its line; false where one is wanted all the same. */
  private takePlainMove({ motion, x, y, z, e, f }: PlainMove, number: number, startByte: number): boolean {
    if (this.question !== null || this.observer !== null) return false;
    if (number > this.lastLine) return true;
    this.state.motion = motion;
    this.go(x, y, z, e, f, startByte, number);
    return true;
  }

  private straight(line: Line, from: number, to: number): void {
    const { letters, values } = line;
    let x = NaN;
    let y = NaN;
    let z = NaN;
    let e = NaN;
    let f = NaN;
    for (let i = from; i < to; i++) {
      const value = values[i];
      if (value !== value) continue;
      const letter = letters[i];
      if (letter === X) x = value;
      else if (letter === Y) y = value;
      else if (letter === Z) z = value;
      else if (letter === E) e = value;
      else if (letter === F) f = value;
    }
    const fromE = this.state.e;
    const feedBefore = this.state.feedMmMin;
    const kind = this.go(x, y, z, e, f, line.startByte, line.number);
    if (this.observer !== null) {
      this.observer.move(line, kind, (this.state.e - fromE) * this.mmPerE, feedBefore, this.state);
    }
  }

  /** Goes straight to where the words say (NaN for those that are not there); gives the kind of move it was. */
  private go(
    toX: number,
    toY: number,
    toZ: number,
    toE: number,
    feed: number,
    startByte: number,
    number: number,
  ): number {
    const { state } = this;
    const { unitMm, relative } = state;
    const { x: fromX, y: fromY, z: fromZ, e: fromE } = state;
    let x = fromX;
    let y = fromY;
    let z = fromZ;
    let e = fromE;
    if (toX === toX) x = relative ? x + toX * unitMm : toX * unitMm + state.offsetX;
    if (toY === toY) y = relative ? y + toY * unitMm : toY * unitMm + state.offsetY;
    if (toZ === toZ) z = relative ? z + toZ * unitMm : toZ * unitMm + state.offsetZ;
    if (toE === toE) {
      e = state.relativeE ? e + toE * unitMm : toE * unitMm + state.offsetE;
      state.e = e;
    }
    if (feed > 0) {
      state.feedMmMin = feed * unitMm;
      this.speed = feedMmMinToMmS(state.feedMmMin) * (state.speedPercent / 100);
    }
    const fed = (e - fromE) * this.mmPerE;
    if (x !== fromX || y !== fromY || z !== fromZ) {
      state.x = x;
      state.y = y;
      state.z = z;
      if (fed > NOTHING_FED_MM && this.drawnBackMm[state.tool] < STILL_DRAWN_MM) {
        // Drawing back and restoring are not scaled: a factor that changes in between must leave nothing owed.
        const laid = fed * this.flow;
        this.feedFilament(laid);
        if (!this.tracker.started) this.tracker.approach(howItCounts(state));
        this.tracker.print(this.moves.count, fromZ, z, startByte, number);
        if (z !== fromZ) this.tracker.climb(fromX, fromY, fromZ, x, y, z);
        this.moves.add(x, y, z, laid, this.speed, MoveKind.print, number);
        return MoveKind.print;
      }
      if (fed !== 0) this.moveFilament(fed);
      this.tracker.travel(startByte, number);
      this.moves.add(x, y, z, fed, this.speed, MoveKind.travel, number);
      return MoveKind.travel;
    }
    if (fed <= 1e-7 && fed >= -1e-7) return MoveKind.travel;
    this.moveFilament(fed);
    if (fed > 0) this.forgiveRest();
    const kind = fed < 0 ? MoveKind.retract : MoveKind.restore;
    this.moves.add(x, y, z, fed, this.speed, kind, number);
    return kind;
  }

  private arc(line: Line, from: number, to: number, clockwise: boolean): void {
    const { state } = this;
    const { unitMm, relative } = state;
    const start = { x: state.x, y: state.y, z: state.z };
    const end = { ...start };
    const centre = { x: 0, y: 0, z: 0 };
    const fromE = state.e;
    const feedBefore = state.feedMmMin;
    let radius = NaN;
    for (let at = from; at < to; at++) {
      const value = line.values[at] * unitMm;
      if (Number.isNaN(value)) continue;
      const letter = line.letters[at];
      if (letter === X) end.x = relative ? end.x + value : value + state.offsetX;
      else if (letter === Y) end.y = relative ? end.y + value : value + state.offsetY;
      else if (letter === Z) end.z = relative ? end.z + value : value + state.offsetZ;
      else if (letter === E) state.e = state.relativeE ? state.e + value : value + state.offsetE;
      else if (letter === I) centre.x = value;
      else if (letter === J) centre.y = value;
      else if (letter === K) centre.z = value;
      else if (letter === R) radius = value;
      else if (letter === F && value > 0) state.feedMmMin = value;
    }
    this.takeFactors();
    // RS274: G18 lies in the ZX plane and G19 in the YZ plane, first axis first.
    const [u, v, w] = arcAxes[state.plane] ?? arcAxes[17];
    const arc = Number.isNaN(radius)
      ? arcFromCentre(start[u], start[v], end[u], end[v], centre[u], centre[v], clockwise)
      : arcFromRadius(start[u], start[v], end[u], end[v], radius, clockwise);
    const fed = (state.e - fromE) * this.mmPerE;
    const wanted = arc ? arcSegments(arc) : 1;
    const segments = this.arcMoves + wanted > MOST_ARC_MOVES ? Math.min(2, wanted) : wanted;
    this.arcMoves += segments;
    const prints = fed > NOTHING_FED_MM && this.drawnBackMm[state.tool] < STILL_DRAWN_MM;
    const moved = prints ? fed * this.flow : fed;
    if (prints) this.feedFilament(moved);
    else if (fed !== 0) this.moveFilament(fed);
    const kind = prints ? MoveKind.print : MoveKind.travel;
    for (let step = 1; step <= segments; step++) {
      const share = step / segments;
      const { x: fromX, y: fromY, z: fromZ } = state;
      if (step === segments || !arc) {
        state.x = end.x;
        state.y = end.y;
        state.z = end.z;
      } else {
        const angle = arc.startAngle + arc.sweep * share;
        state[u] = arc.centreX + arc.radiusMm * Math.cos(angle);
        state[v] = arc.centreY + arc.radiusMm * Math.sin(angle);
        state[w] = start[w] + (end[w] - start[w]) * share;
      }
      if (prints && !this.tracker.started) this.tracker.approach(howItCounts(state));
      if (prints) this.tracker.print(this.moves.count, fromZ, state.z, line.startByte, line.number);
      if (prints && state.z !== fromZ) this.tracker.climb(fromX, fromY, fromZ, state.x, state.y, state.z);
      if (!prints) this.tracker.travel(line.startByte, line.number);
      this.addMove(moved / segments, kind, line.number);
    }
    if (this.observer !== null) this.observer.move(line, kind, fed, feedBefore, state);
  }

  private addMove(fed: number, kind: number, line: number): void {
    const { x, y, z } = this.state;
    this.moves.add(x, y, z, fed, this.speed, kind, line);
  }

  /** Filament that goes into the print; a gap that a lean restart left is filled first. */
  private feedFilament(fed: number): void {
    const { tool } = this.state;
    const owed = this.owedMm[tool];
    if (owed === 0) {
      this.filamentPerTool[tool] += fed;
      return;
    }
    const paid = Math.min(owed, fed);
    this.owedMm[tool] -= paid;
    this.filamentPerTool[tool] += fed - paid;
  }

  /** Filament drawn back or restored; what goes beyond restoring counts as fed. */
  private moveFilament(fed: number): void {
    const { tool } = this.state;
    const drawn = this.drawnBackMm[tool] - fed;
    this.drawnBackMm[tool] = Math.max(0, drawn);
    if (drawn < 0) this.feedFilament(-drawn);
  }

  /** What gives filament back standing has given back all it will: the rest is a lean restart, and what follows is laid. */
  private forgiveRest(): void {
    const { tool } = this.state;
    this.owedMm[tool] += this.drawnBackMm[tool];
    this.drawnBackMm[tool] = 0;
  }

  /** G10 and G11. How far is the printer's own business until the program says it. */
  private firmwareMove(back: boolean, line: Line): void {
    const { retractionMm, retractionMmS, restoreExtraMm, x, y, z } = this.state;
    if (Number.isNaN(retractionMm)) this.retractionUnsaid = true;
    const length = Number.isNaN(retractionMm) ? 0 : back ? -retractionMm : retractionMm + restoreExtraMm;
    this.moveFilament(length);
    const kind = back ? MoveKind.retract : MoveKind.restore;
    // A speed nobody said is as high as the extruder goes.
    this.moves.add(x, y, z, length, retractionMmS > 0 ? retractionMmS : Infinity, kind, line.number);
  }

  private takeNamed(line: Line): void {
    const name = nameOf(line.namedCommand());
    const command = commandFor(name);
    if (!command || !hasCommand(command, this.reading)) {
      this.passOver(name.slice(0, 40));
      return;
    }
    const words = this.words.setNamed(line);
    const toldBefore = this.told;
    command.act?.(this.state, words, this.tell, this.reading);
    if (this.told === toldBefore) this.sayings.see(line, command.code, this.moves.count);
    this.observer?.command(line, command.code, words, this.state);
  }

  private passOver(command: string): void {
    this.sayings.see(this.line, command, this.moves.count);
    if (isNamed(command)) this.lastUnknownMove = this.moves.count;
    const count = this.unknown.get(command);
    if (count === undefined && this.unknown.size >= MOST_UNKNOWN) return;
    this.unknown.set(command, (count ?? 0) + 1);
  }
}

const arcAxes: Record<number, readonly ["x" | "y" | "z", "x" | "y" | "z", "x" | "y" | "z"]> = {
  17: ["x", "y", "z"],
  18: ["z", "x", "y"],
  19: ["y", "z", "x"],
};

/** The figures up to the last tool that fed anything. */
function usedTools(filamentMm: Float64Array): number[] {
  return Array.from(filamentMm.subarray(0, filamentMm.findLastIndex((mm) => mm !== 0) + 1));
}

/**
 * Reads a program that lies in memory whole.
 *
 * @example
 * const { layers, moves } = readProgram("G90\nM83\nG1 X10 Y10 Z0.2 F1800\nG1 X20 E0.3\n");
 * layers.length; // 1
 * moves.count; // 2
 */
export function readProgram(bytes: Uint8Array | string, options?: ReaderOptions): ProgramTables {
  const whole = typeof bytes === "string" ? new TextEncoder().encode(bytes) : bytes;
  const reader = new ProgramReader(whole.length, options);
  reader.push(whole);
  return reader.finish();
}
