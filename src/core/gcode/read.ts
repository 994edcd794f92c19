/**
 * Reads a whole program: keeps the modal state of the machine line by line and fills the move table, the events and the
 * layers. G0–G3, G17–G21, G90–G92 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556); the M codes of printers are
 * common practice (no source).
 */
import { feedMmMinToMmS, MM_PER_INCH } from "../units";
import { arcFromCentre, arcFromRadius, arcSegments } from "./arcs";
import { isCucharaComment } from "./comments";
import { LayerTracker } from "./layers";
import { MarkerFinder } from "./markers";
import { EventKind, EventTableBuilder, MoveKind, MoveTableBuilder } from "./moves";
import { readNamedCommand } from "./named";
import { Line, LineScanner } from "./scan";
import { CucharaLine, ProgramTables, RetractionLines } from "./tables";

export type { CucharaLine, ProgramTables, RetractionLine, RetractionLines } from "./tables";

const [X, Y, Z, E, F, I, J, R, S, P, T, G, M, K, L, D] = "XYZEFIJRSPTGMKLD"
  .split("")
  .map((letter) => letter.charCodeAt(0));

/** Commands that matter elsewhere but change nothing a move table holds. */
const knownElsewhere = new Set(
  [
    17, 18, 19, 21, 29, 73, 75, 76, 77, 105, 108, 110, 111, 112, 113, 114, 115, 117, 118, 119, 120, 121, 155, 201, 203,
    206, 211, 300, 301, 302, 303, 304, 400, 410, 420, 500, 501, 502, 503, 851, 862, 92, 31, 20,
  ].map((code) => M * 1e6 + code),
);

const MOST_TOOLS = 64;

/** Hardly any program has moves in shorter lines than this on average. */
const SHORT_LINE_BYTES = 16;

export class ProgramReader {
  private readonly scanner = new LineScanner((line) => this.take(line));
  private readonly moves: MoveTableBuilder;
  private readonly events = new EventTableBuilder();
  private readonly tracker = new LayerTracker();
  private readonly markerFinder = new MarkerFinder();
  private readonly cucharaLines: CucharaLine[] = [];
  private readonly unknown = new Map<string, number>();
  private readonly filamentPerTool = new Float64Array(MOST_TOOLS);
  private binaryBytes = 0;
  private damagedLines = 0;

  // Modal state. Positions are machine coordinates; a program coordinate is position minus offset.
  private x = 0;
  private y = 0;
  private z = 0;
  private e = 0;
  private offsetX = 0;
  private offsetY = 0;
  private offsetZ = 0;
  private offsetE = 0;
  private feedMmMin = 1500;
  private unit = 1;
  private absolute = true;
  private absoluteE = true;
  private motion = 1;
  private tool = 0;
  private speedFactor = 1;
  private flowFactor = 1;
  private firmwareRetractMm = 0;
  private firmwareRetractMmS = 0;
  /** Filament drawn back and not yet restored, so that restoring is told from printing. */
  private drawnBackMm = 0;
  private readonly retractions: RetractionLines | null;

  /**
   * @param expectedBytes size of the program, if it is known: saves memory while a large one is read
   * @param keepRetractions whether the lines that draw back are wanted, for edits inside moves
   */
  constructor(expectedBytes = 0, keepRetractions = false) {
    this.retractions = keepRetractions ? { lines: [], wiping: 0, byFirmware: 0 } : null;
    this.moves = new MoveTableBuilder(expectedBytes / SHORT_LINE_BYTES);
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

  /** Ends the program and hands over its tables. The reader cannot be used again. */
  finish(): ProgramTables {
    this.scanner.end();
    const moves = this.moves.take();
    const { layers, markers } = this.tracker.finish(moves, this.markerFinder.series());
    return {
      lineCount: this.scanner.lineCount,
      byteCount: this.scanner.byteCount,
      lineEnd: this.scanner.lineEnd,
      moves,
      events: this.events.take(),
      layers,
      markers,
      cucharaLines: this.cucharaLines,
      filamentPerToolMm: usedTools(this.filamentPerTool),
      unknown: [...this.unknown].map(([command, count]) => ({ command, count })),
      binaryBytes: this.binaryBytes,
      overlongLines: this.scanner.overlongLines,
      damagedLines: this.damagedLines,
      retractions: this.retractions,
    };
  }

  private take(line: Line): void {
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
    } else if (line.wordCount === 0 && !line.named) this.markerFinder.see(line, this.moves.count);
  }

  private command(line: Line, from: number, to: number): void {
    const letter = line.letters[from];
    const code = line.values[from];
    if (letter === G) {
      if (code === 1 || code === 0) {
        this.motion = code;
        this.straight(line, from + 1, to);
      } else this.preparatory(line, code, from + 1, to);
    } else if (letter === M) this.miscellaneous(line, code, from + 1, to);
    else if (letter === T) this.selectTool(line, code);
    else if (letter === X || letter === Y || letter === Z || letter === E || letter === F) {
      // RS274: a line of axis words alone repeats the motion in force.
      if (this.motion <= 1) this.straight(line, from, to);
      else this.arc(line, from, to, this.motion === 2);
    }
  }

  private straight(line: Line, from: number, to: number): void {
    const { letters, values, number } = line;
    let { x, y, z } = this;
    const fromZ = z;
    let e = this.e;
    let displaced = false;
    for (let i = from; i < to; i++) {
      const value = values[i];
      if (value !== value) continue;
      switch (letters[i]) {
        case X:
          x = this.absolute ? value * this.unit + this.offsetX : x + value * this.unit;
          displaced = true;
          break;
        case Y:
          y = this.absolute ? value * this.unit + this.offsetY : y + value * this.unit;
          displaced = true;
          break;
        case Z:
          z = this.absolute ? value * this.unit + this.offsetZ : z + value * this.unit;
          displaced = true;
          break;
        case E:
          e = this.absoluteE ? value * this.unit + this.offsetE : e + value * this.unit;
          break;
        case F:
          if (value > 0) this.feedMmMin = value * this.unit;
          break;
      }
    }
    // Drawing back and restoring are not scaled: a factor that changes in between must leave nothing owed.
    const fed = displaced ? (e - this.e) * this.flowFactor : e - this.e;
    this.e = e;
    if (displaced && (x !== this.x || y !== this.y || z !== fromZ)) {
      this.x = x;
      this.y = y;
      this.z = z;
      if (fed > 1e-6 && this.drawnBackMm < 1e-4) {
        this.feedFilament(fed);
        this.tracker.print(this.moves.count, fromZ, z, line.startByte, number);
        this.addMove(fed, MoveKind.print, number);
      } else {
        if (fed !== 0) this.moveFilament(fed);
        if (fed < -1e-4 && this.retractions) this.retractions.wiping++;
        this.tracker.travel(line.startByte, number);
        this.addMove(fed, MoveKind.travel, number);
      }
    } else if (Math.abs(fed) > 1e-7) {
      this.moveFilament(fed);
      this.retractions?.lines.push({
        line: number,
        startByte: line.startByte,
        endByte: line.endByte,
        text: line.text(),
        move: this.moves.count,
        fedMm: fed,
        absolute: this.absoluteE,
        tool: this.tool,
      });
      this.addMove(fed, fed < 0 ? MoveKind.retract : MoveKind.restore, number);
    }
  }

  private arc(line: Line, from: number, to: number, clockwise: boolean): void {
    let x = this.x;
    let y = this.y;
    let z = this.z;
    let e = this.e;
    let i = 0;
    let j = 0;
    let radius = NaN;
    for (let at = from; at < to; at++) {
      const value = line.values[at] * this.unit;
      if (Number.isNaN(value)) continue;
      const letter = line.letters[at];
      if (letter === X) x = this.absolute ? value + this.offsetX : x + value;
      else if (letter === Y) y = this.absolute ? value + this.offsetY : y + value;
      else if (letter === Z) z = this.absolute ? value + this.offsetZ : z + value;
      else if (letter === E) e = this.absoluteE ? value + this.offsetE : e + value;
      else if (letter === I) i = value;
      else if (letter === J) j = value;
      else if (letter === R) radius = value;
      else if (letter === F && value > 0) this.feedMmMin = value;
    }
    const arc = Number.isNaN(radius)
      ? arcFromCentre(this.x, this.y, x, y, i, j, clockwise)
      : arcFromRadius(this.x, this.y, x, y, radius, clockwise);
    const fed = (e - this.e) * this.flowFactor;
    this.e = e;
    const segments = arc ? arcSegments(arc) : 1;
    const startZ = this.z;
    const prints = fed > 1e-6 && this.drawnBackMm < 1e-4;
    if (prints) this.feedFilament(fed);
    else if (fed !== 0) this.moveFilament(fed);
    for (let step = 1; step <= segments; step++) {
      const share = step / segments;
      const fromZ = this.z;
      const last = step === segments;
      const angle = arc ? arc.startAngle + arc.sweep * share : 0;
      this.x = last || !arc ? x : arc.centreX + arc.radiusMm * Math.cos(angle);
      this.y = last || !arc ? y : arc.centreY + arc.radiusMm * Math.sin(angle);
      this.z = last ? z : startZ + (z - startZ) * share;
      if (prints) this.tracker.print(this.moves.count, fromZ, this.z, line.startByte, line.number);
      else this.tracker.travel(line.startByte, line.number);
      this.addMove(fed / segments, prints ? MoveKind.print : MoveKind.travel, line.number);
    }
  }

  private addMove(fed: number, kind: number, line: number): void {
    this.moves.add(this.x, this.y, this.z, fed, feedMmMinToMmS(this.feedMmMin) * this.speedFactor, kind, line);
  }

  /** Filament that goes into the print. */
  private feedFilament(fed: number): void {
    this.filamentPerTool[this.tool] += fed;
  }

  /** Filament drawn back or restored; what goes beyond restoring counts as fed. */
  private moveFilament(fed: number): void {
    this.drawnBackMm -= fed;
    if (this.drawnBackMm < 0) {
      this.feedFilament(-this.drawnBackMm);
      this.drawnBackMm = 0;
    }
  }

  private preparatory(line: Line, code: number, from: number, to: number): void {
    switch (code) {
      case 2:
      case 3:
        this.motion = code;
        this.arc(line, from, to, code === 2);
        return;
      case 4: {
        const seconds = line.value(S, from);
        const milliseconds = line.value(P, from);
        const dwell = Number.isNaN(seconds) ? milliseconds / 1000 : seconds;
        if (dwell > 0) this.event(EventKind.dwell, dwell, this.tool, line);
        return;
      }
      case 10:
        // G10 with words sets offsets on other machines; alone it is the firmware's own retraction.
        if (to > from && !(to === from + 1 && line.letters[from] === S)) return;
        if (this.retractions) this.retractions.byFirmware++;
        this.moveFilament(-this.firmwareRetractMm);
        this.firmwareMove(-this.firmwareRetractMm, MoveKind.retract, line.number);
        return;
      case 11:
        this.moveFilament(this.firmwareRetractMm);
        this.firmwareMove(this.firmwareRetractMm, MoveKind.restore, line.number);
        return;
      case 17:
      case 18:
      case 19:
        return;
      case 20:
        this.unit = MM_PER_INCH;
        return;
      case 21:
        this.unit = 1;
        return;
      case 28: {
        const all = to === from || !(line.has(X, from) || line.has(Y, from) || line.has(Z, from));
        if (all || line.has(X, from)) this.x = this.offsetX = 0;
        if (all || line.has(Y, from)) this.y = this.offsetY = 0;
        if (all || line.has(Z, from)) this.z = this.offsetZ = 0;
        this.tracker.travel(line.startByte, line.number);
        this.addMove(0, MoveKind.home, line.number);
        return;
      }
      case 90:
        this.absolute = this.absoluteE = true;
        return;
      case 91:
        this.absolute = this.absoluteE = false;
        return;
      case 92:
        this.namePosition(line, from, to);
        return;
      default:
        this.passOver("G", code);
    }
  }

  private firmwareMove(fed: number, kind: number, line: number): void {
    this.moves.add(this.x, this.y, this.z, fed, this.firmwareRetractMmS || 30, kind, line);
  }

  private namePosition(line: Line, from: number, to: number): void {
    const all = to === from;
    const named = (letter: number) => {
      const value = line.value(letter, from);
      return Number.isNaN(value) ? (all ? 0 : NaN) : value * this.unit;
    };
    const [nameX, nameY, nameZ, nameE] = [named(X), named(Y), named(Z), named(E)];
    if (!Number.isNaN(nameX)) this.offsetX = this.x - nameX;
    if (!Number.isNaN(nameY)) this.offsetY = this.y - nameY;
    if (!Number.isNaN(nameZ)) this.offsetZ = this.z - nameZ;
    if (!Number.isNaN(nameE)) this.offsetE = this.e - nameE;
  }

  private miscellaneous(line: Line, code: number, from: number, to: number): void {
    const s = line.value(S, from);
    const named = line.value(T, from);
    const tool = named >= 0 && named < 256 ? named : this.tool;
    switch (code) {
      case 17:
        this.event(EventKind.motorsOn, 1, tool, line);
        return;
      case 18:
      case 84:
        // With axes named, the others keep holding.
        if (to === from) this.event(EventKind.motorsOff, 1, tool, line);
        return;
      case 82:
        this.absoluteE = true;
        return;
      case 83:
        this.absoluteE = false;
        return;
      case 104:
      case 109: {
        const target = Number.isNaN(s) ? line.value(R, from) : s;
        const kind = code === 109 ? EventKind.nozzleTemperatureWait : EventKind.nozzleTemperature;
        if (!Number.isNaN(target)) this.event(kind, target, tool, line);
        return;
      }
      case 140:
      case 190: {
        const target = Number.isNaN(s) ? line.value(R, from) : s;
        const kind = code === 190 ? EventKind.bedTemperatureWait : EventKind.bedTemperature;
        if (!Number.isNaN(target)) this.event(kind, target, 0, line);
        return;
      }
      case 106:
      case 126:
        this.event(EventKind.fan, code === 126 || Number.isNaN(s) ? 255 : s, this.fanIndex(line, from), line);
        return;
      case 107:
      case 127:
        this.event(EventKind.fan, 0, this.fanIndex(line, from), line);
        return;
      case 204: {
        const print = line.value(P, from);
        this.eventIf(EventKind.printAcceleration, Number.isNaN(print) ? s : print, line);
        this.eventIf(EventKind.travelAcceleration, Number.isNaN(print) ? s : line.value(T, from), line);
        this.eventIf(EventKind.retractAcceleration, line.value(R, from), line);
        return;
      }
      case 205:
        this.eventIf(EventKind.jerkX, line.value(X, from), line);
        this.eventIf(EventKind.jerkY, line.value(Y, from), line);
        this.eventIf(EventKind.jerkZ, line.value(Z, from), line);
        this.eventIf(EventKind.jerkE, line.value(E, from), line);
        this.eventIf(EventKind.junctionDeviation, line.value(J, from), line);
        return;
      case 566:
        // The same cornering values in mm/min.
        this.eventIf(EventKind.jerkX, line.value(X, from) / 60, line);
        this.eventIf(EventKind.jerkY, line.value(Y, from) / 60, line);
        this.eventIf(EventKind.jerkZ, line.value(Z, from) / 60, line);
        this.eventIf(EventKind.jerkE, line.value(E, from) / 60, line);
        return;
      case 207:
        this.firmwareRetractMm = s >= 0 ? s : this.firmwareRetractMm;
        this.firmwareRetractMmS = line.value(F, from) > 0 ? line.value(F, from) / 60 : this.firmwareRetractMmS;
        this.eventIf(EventKind.firmwareRetractLength, s, line);
        this.eventIf(EventKind.firmwareRetractSpeed, line.value(F, from) / 60, line);
        return;
      case 208:
        return;
      case 220:
        if (s > 0) this.speedFactor = s / 100;
        this.eventIf(EventKind.speedFactor, s, line);
        return;
      case 221:
        if (s > 0 && tool === this.tool) this.flowFactor = s / 100;
        if (!Number.isNaN(s)) this.event(EventKind.flowFactor, s, tool, line);
        return;
      case 572: {
        const advance = line.value(S, from);
        const drive = line.value(D, from);
        if (!Number.isNaN(advance))
          this.event(EventKind.pressureAdvance, advance, drive >= 0 && drive < 256 ? drive : tool, line);
        return;
      }
      case 900: {
        const advance = line.value(K, from);
        this.eventIf(EventKind.pressureAdvance, Number.isNaN(advance) ? line.value(L, from) : advance, line);
        return;
      }
      default:
        if (!knownElsewhere.has(M * 1e6 + code)) this.passOver("M", code);
    }
  }

  private fanIndex(line: Line, from: number): number {
    const index = line.value(P, from);
    return index >= 0 && index < 256 ? index : this.tool;
  }

  private selectTool(line: Line, code: number): void {
    if (!Number.isInteger(code) || code < 0 || code >= MOST_TOOLS) return;
    this.tool = code;
    this.event(EventKind.tool, code, code, line);
  }

  private takeNamed(line: Line): void {
    const text = line.text();
    const readings = readNamedCommand(text);
    if (!readings) {
      const name = text.trim().split(/[\s;]/, 1)[0].slice(0, 40);
      this.unknown.set(name, (this.unknown.get(name) ?? 0) + 1);
      return;
    }
    for (const [kind, value] of readings) {
      if (kind === EventKind.firmwareRetractLength) this.firmwareRetractMm = value;
      if (kind === EventKind.firmwareRetractSpeed) this.firmwareRetractMmS = value;
      this.event(kind, value, this.tool, line);
    }
  }

  private event(kind: EventKind, value: number, tool: number, line: Line): void {
    this.events.add(kind, value, tool, this.moves.count, line);
  }

  private eventIf(kind: EventKind, value: number, line: Line): void {
    if (!Number.isNaN(value)) this.event(kind, value, this.tool, line);
  }

  private passOver(letter: string, code: number): void {
    const command = Number.isNaN(code) ? letter : `${letter}${code}`;
    if (this.unknown.size < 200 || this.unknown.has(command)) {
      this.unknown.set(command, (this.unknown.get(command) ?? 0) + 1);
    }
  }
}

/** The figures up to the last tool that fed anything. */
function usedTools(filamentMm: Float64Array): number[] {
  return Array.from(filamentMm.subarray(0, filamentMm.findLastIndex((mm) => mm !== 0) + 1));
}

/** Reads a program that lies in memory whole. */
export function readProgram(bytes: Uint8Array | string): ProgramTables {
  const whole = typeof bytes === "string" ? new TextEncoder().encode(bytes) : bytes;
  const reader = new ProgramReader(whole.length);
  reader.push(whole);
  return reader.finish();
}
