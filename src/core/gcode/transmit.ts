/**
 * A program as it is sent: its commands one by one; comments, empty lines, and line numbers, checksums and counters of its own left out.
 */

const decoder = new TextDecoder();
const LF = 10;
const CR = 13;

/** The byte that ends this program's lines: as `LineScanner` sees it. */
export function lineEndByteOf(bytes: Uint8Array): number {
  const feed = bytes.indexOf(LF);
  const back = bytes.indexOf(CR);
  if (back < 0 || back + 1 >= bytes.length) return LF;
  return feed < 0 || back + 1 < feed ? CR : LF;
}

/** The command on the line that starts at byte `at` (empty if it has none), and the byte the next line starts at. */
export function commandAt(bytes: Uint8Array, at: number, lineEndByte = LF): { text: string; next: number } {
  const end = bytes.indexOf(lineEndByte, at);
  const stop = end < 0 ? bytes.length : end;
  const [from, to] = commandSpan(bytes, at, stop);
  return { text: from === to ? "" : decoder.decode(bytes.subarray(from, to)), next: stop + 1 };
}

/** The lines that hold a command, counted from 1, with the length of the command. */
export function* commandLengths(bytes: Uint8Array, lineEndByte = LF): Generator<{ line: number; length: number }> {
  let line = 0;
  for (let at = 0; at < bytes.length;) {
    const end = bytes.indexOf(lineEndByte, at);
    const stop = end < 0 ? bytes.length : end;
    const [from, to] = commandSpan(bytes, at, stop);
    line++;
    if (to > from) yield { line, length: to - from };
    at = stop + 1;
  }
}

/** How many lines of a program hold a command. */
export function countCommands(bytes: Uint8Array, lineEndByte = LF): number {
  let count = 0;
  for (let at = 0; at < bytes.length;) {
    const end = bytes.indexOf(lineEndByte, at);
    const stop = end < 0 ? bytes.length : end;
    const [from, to] = commandSpan(bytes, at, stop);
    if (from < to) count++;
    at = stop + 1;
  }
  return count;
}

const isDigit = (byte: number) => byte >= 48 && byte <= 57;

/** Where the command stands within a line: behind a number of its own, before its checksum and its comment. */
function commandSpan(bytes: Uint8Array, at: number, stop: number): [number, number] {
  let from = at;
  let to = at;
  while (to < stop && bytes[to] !== 59) to++;
  while (from < to && bytes[from] <= 32) from++;
  if ((bytes[from] === 78 || bytes[from] === 110) && isDigit(bytes[from + 1])) {
    from++;
    while (from < to && isDigit(bytes[from])) from++;
    let star = to;
    while (star > from && (isDigit(bytes[star - 1]) || bytes[star - 1] <= 32)) star--;
    if (star > from && bytes[star - 1] === 42) to = star - 1;
    while (from < to && bytes[from] <= 32) from++;
  }
  while (to > from && bytes[to - 1] <= 32) to--;
  return isLeftOut(bytes, from, to) ? [from, from] : [from, to];
}

const [BRACKET, CLOSED, LETTER_M] = [40, 41, 77];
const SMALL = 32;

/** Comments in brackets alone, which some printers answer with nothing, and M110: the link counts a job's lines itself. */
function isLeftOut(bytes: Uint8Array, from: number, to: number): boolean {
  if (bytes[from] === BRACKET) {
    let inBrackets = false;
    for (let at = from; at < to; at++) {
      if (inBrackets) inBrackets = bytes[at] !== CLOSED;
      else if (bytes[at] === BRACKET) inBrackets = true;
      else if (bytes[at] > 32) return false;
    }
    return true;
  }
  if ((bytes[from] & ~SMALL) !== LETTER_M || to - from < 4) return false;
  return bytes[from + 1] === 49 && bytes[from + 2] === 49 && bytes[from + 3] === 48 && !isDigit(bytes[from + 4]);
}
