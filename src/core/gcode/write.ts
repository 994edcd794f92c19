/**
 * Move table → program text, straight into bytes. `.` as decimal mark, no exponent, no `-0`; X Y Z three decimals, E five,
 * F whole.
 */
import { freshState, MachineState } from "../machine/state";
import { plainNumber, toMicrometres } from "../units";
import { layerComment } from "./comments";
import { follow } from "./follow";
import { laysMaterial, MoveKind, MoveTable } from "./moves";

const encoder = new TextEncoder();
const [X, Y, Z, E, F] = [88, 89, 90, 69, 70];
const scales = [1, 10, 100, 1000, 10_000, 100_000, 1_000_000];

/** Grows a byte array by text and numbers. */
export class ByteWriter {
  private bytes = new Uint8Array(1 << 16);
  private length = 0;
  /** Lines that were ended so far. */
  lines = 0;

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more));
    larger.set(this.bytes.subarray(0, this.length));
    this.bytes = larger;
  }

  byte(value: number): void {
    this.room(1);
    this.bytes[this.length++] = value;
  }

  /** Any text, as UTF-8. */
  text(value: string): void {
    this.room(value.length * 3);
    if (value.length < 8) {
      // Short words byte by byte: the encoder costs more than it writes.
      const { bytes } = this;
      let at = this.length;
      let index = 0;
      for (; index < value.length; index++) {
        const code = value.charCodeAt(index);
        if (code > 127) break;
        bytes[at++] = code;
      }
      if (index === value.length) {
        this.length = at;
        return;
      }
    }
    this.length += encoder.encodeInto(value, this.bytes.subarray(this.length)).written;
  }

  line(value: string): void {
    this.text(value);
    this.endLine();
  }

  endLine(): void {
    this.byte(10);
    this.lines++;
  }

  /** A number with at most `decimals` places (0 to 6), trailing zeros left out. */
  number(value: number, decimals: number): void {
    this.room(24);
    const { bytes } = this;
    let whole = Math.round(Math.abs(value) * scales[decimals]);
    if (value < 0 && whole !== 0) bytes[this.length++] = 45;
    let places = decimals;
    while (places > 0 && whole % 10 === 0) {
      whole /= 10;
      places--;
    }
    let count = 1;
    for (let ten = 10; ten <= whole; ten *= 10) count++;
    if (count <= places) count = places + 1;
    // Written from the last digit to the first; whole numbers below 2^31 take the fast integer way.
    const length = places > 0 ? count + 1 : count;
    let at = this.length + length;
    this.length = at;
    let digit = 0;
    while (whole > 0x7fffffff) {
      if (digit++ === places && places > 0) bytes[--at] = 46;
      const next = Math.floor(whole / 10);
      bytes[--at] = 48 + (whole - next * 10);
      whole = next;
    }
    let rest = whole | 0;
    while (digit < count) {
      if (digit++ === places && places > 0) bytes[--at] = 46;
      const next = (rest / 10) | 0;
      bytes[--at] = 48 + (rest - next * 10);
      rest = next;
    }
  }

  /** A space, a letter (as a byte) and a number. */
  word(letter: number, value: number, decimals: number): void {
    this.room(26);
    this.bytes[this.length++] = 32;
    this.bytes[this.length++] = letter;
    this.number(value, decimals);
  }

  /** What was written so far. */
  take(): Uint8Array<ArrayBuffer> {
    return this.bytes.slice(0, this.length);
  }
}

export interface LayerText {
  /** Lines to stand behind the comment that opens the layer, before its first travel. */
  linesBefore: ReadonlyMap<number, string[]>;
  /** Lines to stand before a move. */
  linesBeforeMove: ReadonlyMap<number, string>;
  tops: ArrayLike<number>;
  /** Where the nozzle stands before the first move, mm. */
  start: { x: number; y: number };
  /** Drawing back and restoring are left to the firmware: G10 and G11. */
  firmwareRetraction?: boolean;
  /** Filled with the line (from 0) of every move. */
  lineOfMove?: Uint32Array;
}

/** A way back to where one's own lines went away from, mm/s: no printer's fastest. */
const WAY_BACK_MM_S = 100;

/** What must follow lines of the user's own, so that the next move is what it was meant to be: modes, and the place it begins at. */
function behindOwnLines(
  own: readonly string[],
  at: { x: number; y: number; z: number },
): { lines: string[]; saysAgain: boolean } {
  // Settings alone leave place, feed and modes as they are.
  if (own.every((line) => /^\s*(;|$|M(?!8[23]\b)\d)/i.test(line))) return { lines: [], saysAgain: false };
  const state: MachineState = { ...freshState(), ...at, relativeE: true };
  for (const line of own) follow(state, line);
  const lines = [
    ...(state.unitMm === 1 ? [] : ["G21"]),
    ...(state.relative ? ["G90"] : []),
    ...(state.relativeE && !state.relative ? [] : ["M83"]),
  ];
  const [isElsewhere, isLower] = [state.x !== at.x || state.y !== at.y || state.z !== at.z, state.z < at.z];
  if (isElsewhere && !Number.isNaN(at.z)) {
    const [x, y, z] = [at.x, at.y, at.z].map((mm) => plainNumber(mm, 3));
    const across = `G0 X${x} Y${y} F${WAY_BACK_MM_S * 60}`;
    lines.push(...(isLower ? [`G0 Z${z}`, across] : [across, `G0 Z${z}`]));
  }
  return { lines, saysAgain: true };
}

/** Writes moves with relative filament lengths (M83), each layer opened by its comment. */
export function writeMoves(out: ByteWriter, moves: MoveTable, layerStarts: number[], text: LayerText): void {
  const { x, y, z, filamentMm, feedMmS, kind } = moves;
  let feed = -1;
  let lastX = Math.fround(text.start.x);
  let lastY = Math.fround(text.start.y);
  let lastZ = NaN;
  // Rounding is carried on, so that the sum of what is written is the sum of what was meant.
  let owed = 0;
  for (let layer = 0; layer + 1 < layerStarts.length; layer++) {
    out.line(layerComment(layer, layerStarts.length - 1, String(toMicrometres(text.tops[layer]) / 1000)));
    for (const line of text.linesBefore.get(layer) ?? []) out.line(line);
    for (let i = layerStarts[layer]; i < layerStarts[layer + 1]; i++) {
      const before = text.linesBeforeMove.get(i);
      if (before !== undefined) {
        const own = before.split("\n");
        for (const line of own) out.line(line);
        const at = i > 0 ? { x: x[i - 1], y: y[i - 1], z: z[i - 1] } : { ...text.start, z: NaN };
        const behind = behindOwnLines(own, at);
        for (const line of behind.lines) out.line(line);
        // What they may have changed is said again.
        if (behind.saysAgain) {
          feed = -1;
          lastX = lastY = lastZ = NaN;
        }
      }
      if (text.lineOfMove) text.lineOfMove[i] = out.lines;
      const k = kind[i];
      if (text.firmwareRetraction && (k === MoveKind.retract || k === MoveKind.restore)) {
        out.line(k === MoveKind.retract ? "G10" : "G11");
        continue;
      }
      out.text(k === MoveKind.travel ? "G0" : "G1");
      if (k !== MoveKind.retract && k !== MoveKind.restore) {
        if (x[i] !== lastX) out.word(X, x[i], 3);
        if (y[i] !== lastY) out.word(Y, y[i], 3);
        if (z[i] !== lastZ) out.word(Z, z[i], 3);
        lastX = x[i];
        lastY = y[i];
        lastZ = z[i];
      }
      if (laysMaterial(k) || k === MoveKind.retract || k === MoveKind.restore) {
        const wanted = filamentMm[i] + owed;
        const written = Math.round(wanted * 1e5) / 1e5;
        owed = wanted - written;
        out.word(E, written, 5);
      }
      const f = Math.round(feedMmS[i] * 60);
      if (f !== feed) {
        out.word(F, f, 0);
        feed = f;
      }
      out.endLine();
    }
  }
  const last = text.linesBeforeMove.get(moves.count);
  if (last === undefined) return;
  const own = last.split("\n");
  for (const line of own) out.line(line);
  const end = moves.count - 1;
  if (end >= 0) for (const line of behindOwnLines(own, { x: x[end], y: y[end], z: z[end] }).lines) out.line(line);
}
