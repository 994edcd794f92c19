/** Bytes of a link as lines of text, with nothing hidden: what is no text is written as `\x` and its number. */

import { isUtf8 } from "node:buffer";

/** A line longer than this is cut into pieces, so that noise without line ends fills no memory. */
const LONGEST_PIECE = 4096;

/** How each byte is shown where a line is no text. */
const shown = Array.from({ length: 256 }, (_, byte) =>
  byte >= 32 && byte < 127 ? String.fromCharCode(byte) : `\\x${byte.toString(16).padStart(2, "0")}`,
);

function decode(bytes: Uint8Array): string {
  let text = "";
  if (isUtf8(bytes)) {
    text = Buffer.from(bytes).toString("utf8");
    // eslint-disable-next-line no-control-regex -- exactly those are to be shown
    return text.replace(/[\x00-\x08\x0b-\x1f\x7f]/g, (letter) => shown[letter.charCodeAt(0)]);
  }
  for (const byte of bytes) text += shown[byte];
  return text;
}

/** Cuts a stream of bytes into lines. Line ends are LF or CRLF. */
export class LineCutter {
  private rest = new Uint8Array(0);

  constructor(private readonly onLine: (line: string) => void) {}

  push(chunk: Uint8Array): void {
    let from = 0;
    for (let end = chunk.indexOf(10); end >= 0; end = chunk.indexOf(10, from)) {
      this.emit(chunk.subarray(from, end));
      from = end + 1;
    }
    if (from === chunk.length) return;
    const joined = new Uint8Array(this.rest.length + chunk.length - from);
    joined.set(this.rest);
    joined.set(chunk.subarray(from), this.rest.length);
    this.rest = joined;
    while (this.rest.length > LONGEST_PIECE) {
      const piece = this.rest.subarray(0, LONGEST_PIECE);
      this.rest = this.rest.slice(LONGEST_PIECE);
      this.onLine(decode(piece));
    }
  }

  /** Whether a line has begun and not ended. */
  get holdsPart(): boolean {
    return this.rest.length > 0;
  }

  /** Takes what there is for a line. */
  flush(): void {
    if (this.rest.length > 0) this.emit(new Uint8Array(0));
  }

  private emit(end: Uint8Array): void {
    let whole = end;
    if (this.rest.length > 0) {
      whole = new Uint8Array(this.rest.length + end.length);
      whole.set(this.rest);
      whole.set(end, this.rest.length);
      this.rest = new Uint8Array(0);
    }
    if (whole.length > 0 && whole[whole.length - 1] === 13) whole = whole.subarray(0, whole.length - 1);
    this.onLine(decode(whole));
  }
}
