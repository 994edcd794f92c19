/** Looking into a program: windows of its lines, and lines that hold a text. */

const decoder = new TextDecoder();

/** So many letters of a line are shown. */
const LONGEST_SHOWN = 2000;
/** So many bytes of a line that reaches over several chunks are looked through. */
const LONGEST_SEARCHED = 1 << 20;

/**
 * Lines from `from` (counted from 0) on, without their ends.
 *
 * @example
 * linesOf([bytesOf("G28\nG1 X1\nG1 X2\n")], 1, 2); // ["G1 X1", "G1 X2"]
 */
export function linesOf(chunks: Iterable<Uint8Array>, from: number, count: number): string[] {
  const lines: string[] = [];
  for (const { number, text } of eachLine(chunks, from)) {
    if (number >= from + count) break;
    lines.push(text());
  }
  return lines;
}

export interface Hits {
  count: number;
  /** The first of them, lines from 0. */
  hits: { line: number; text: string }[];
}

/** How far a search has come, and what it has found meanwhile. */
export interface SearchNews {
  bytes: number;
  hits: Hits["hits"];
}

const bytewise = new TextDecoder("latin1");

/**
 * Lines that hold a text, letters of either case. Chunks are looked through as a whole, and only lines with a hit become text of their own.
 *
 * @param most so many hits are told; all are counted @param onNews hears after every chunk what was found in it
 *
 * @example
 * searchLines([bytesOf("G28\nG1 X1\n")], "x1", 10); // { count: 1, hits: [{ line: 1, text: "G1 X1" }] }
 */
export function searchLines(
  chunks: Iterable<Uint8Array>,
  wanted: string,
  most: number,
  onNews: (news: SearchNews) => void = () => undefined,
): Hits {
  // Letters beyond ASCII have cases of their own: those lines are looked at one by one.
  // eslint-disable-next-line no-control-regex
  if (!/^[\x00-\x7f]*$/.test(wanted)) return searchTexts(chunks, wanted, most);
  const found: Hits = { count: 0, hits: [] };
  const low = wanted.toLowerCase();
  let line = 0;
  let bytes = 0;
  let carry: Uint8Array<ArrayBufferLike> = new Uint8Array(0);
  const look = (block: Uint8Array) => {
    const text = bytewise.decode(block).toLowerCase();
    const fresh: Hits["hits"] = [];
    let counted = 0;
    for (let at = text.indexOf(low); at >= 0;) {
      for (let end = block.indexOf(LINE_FEED, counted); end >= 0 && end < at; end = block.indexOf(LINE_FEED, counted)) {
        line++;
        counted = end + 1;
      }
      const end = block.indexOf(LINE_FEED, at);
      const stop = end < 0 ? block.length : end;
      found.count++;
      if (found.hits.length < most) {
        const hit = {
          line,
          text: decoder.decode(block.subarray(counted, stop)).slice(0, LONGEST_SHOWN).replace(/\r$/, ""),
        };
        found.hits.push(hit);
        fresh.push(hit);
      }
      at = text.indexOf(low, stop);
    }
    for (let end = block.indexOf(LINE_FEED, counted); end >= 0; end = block.indexOf(LINE_FEED, counted)) {
      line++;
      counted = end + 1;
    }
    onNews({ bytes, hits: fresh });
  };
  const rest = chunks[Symbol.iterator]();
  for (let next = rest.next(); !next.done; next = rest.next()) {
    const chunk = next.value;
    if (bytes === 0 && lineEndOf(chunk) === CARRIAGE_RETURN) return searchTexts(behind(chunk, rest), wanted, most);
    bytes += chunk.length;
    const end = chunk.lastIndexOf(LINE_FEED) + 1;
    if (end === 0) carry = joined(carry, chunk).subarray(0, LONGEST_SEARCHED);
    else {
      look(carry.length > 0 ? joined(carry, chunk.subarray(0, end)) : chunk.subarray(0, end));
      carry = chunk.slice(end);
    }
  }
  if (carry.length > 0) look(carry);
  return found;
}

const LINE_FEED = 10;
const CARRIAGE_RETURN = 13;

/** A chunk that was taken, and those behind it. */
function* behind(chunk: Uint8Array, rest: Iterator<Uint8Array>): Generator<Uint8Array> {
  yield chunk;
  for (let next = rest.next(); !next.done; next = rest.next()) yield next.value;
}

function searchTexts(chunks: Iterable<Uint8Array>, wanted: string, most: number): Hits {
  const found: Hits = { count: 0, hits: [] };
  const low = wanted.toLowerCase();
  for (const { number, text } of eachLine(chunks, 0)) {
    const line = text();
    if (!line.toLowerCase().includes(low)) continue;
    found.count++;
    if (found.hits.length < most) found.hits.push({ line: number, text: line });
  }
  return found;
}

/**
 * How many lines end in a chunk: by its line feeds, or by its carriage returns where those alone end lines. 0 where that cannot be told from
 * the chunk itself: a single carriage return may be the first half of an end that is broken in two.
 */
export function lineEndsIn(chunk: Uint8Array): number {
  const feeds = countOf(chunk, LINE_FEED);
  if (feeds > 0) return feeds;
  const returns = countOf(chunk, CARRIAGE_RETURN);
  return returns > 1 ? returns : 0;
}

function countOf(bytes: Uint8Array, byte: number): number {
  let count = 0;
  for (let at = bytes.indexOf(byte); at >= 0; at = bytes.indexOf(byte, at + 1)) count++;
  return count;
}

interface SeenLine {
  number: number;
  text(): string;
}

/** Every line from one on; those before are only counted. */
function* eachLine(chunks: Iterable<Uint8Array>, from: number): Generator<SeenLine> {
  let number = 0;
  let carry: Uint8Array<ArrayBufferLike> = new Uint8Array(0);
  // Files whose lines end in CR alone are old and rare: the first line end tells.
  let endByte = 0;
  const seen = (bytes: Uint8Array): SeenLine => ({
    number: number++,
    text: () => decoder.decode(bytes.subarray(0, LONGEST_SHOWN)).replace(/\r$/, ""),
  });
  for (const next of chunks) {
    let chunk = next;
    if (endByte === 0) {
      chunk = joined(carry, next);
      carry = new Uint8Array(0);
      endByte = lineEndOf(chunk);
    }
    let at = 0;
    for (;;) {
      const end = endByte === 0 ? -1 : chunk.indexOf(endByte, at);
      if (end < 0) break;
      const own = chunk.subarray(at, end);
      const bytes = carry.length > 0 ? joined(carry, shortened(own)) : own;
      carry = new Uint8Array(0);
      at = end + 1;
      if (number < from) number++;
      else yield seen(bytes);
    }
    carry = joined(shortened(carry), shortened(chunk.subarray(at)));
  }
  if (carry.length > 0 && number >= from) yield seen(carry);
}

/** The byte that ends lines; 0 as long as a CR may still be the first half of a CRLF. */
function lineEndOf(bytes: Uint8Array): number {
  const [lf, cr] = [bytes.indexOf(10), bytes.indexOf(13)];
  if (lf >= 0 && (cr < 0 || cr >= lf - 1)) return LINE_FEED;
  return cr >= 0 && cr < bytes.length - 1 ? CARRIAGE_RETURN : 0;
}

/** No more of a line is kept than is shown: a file of one endless line costs no more than its bytes. */
const shortened = (bytes: Uint8Array) => bytes.subarray(0, LONGEST_SHOWN);

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  const whole = new Uint8Array(a.length + b.length);
  whole.set(a);
  whole.set(b, a.length);
  return whole;
}
