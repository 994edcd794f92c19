/**
 * The numbered window of a stream: what was sent, what was taken, what the printer asks for again. A plain value: each happening gives
 * a new one, nothing here waits or sends. Numbers, checksums and `Resend` are common practice, no source; the rules are those of
 * `docs/architecture.md`, "Talking to a printer".
 */

/** Lines that can be asked for again. */
export const KEPT_LINES = 64;
/** A printer that asks so often, and takes nothing meanwhile, will not get through. */
export const MOST_ASKS = 25;
/** Behind this number the printer's counter is set back to 0, long before it or the line grows too long. */
export const HIGHEST_NUMBER = 99_999;

/** Sets the printer's line counter: the next number is 1. */
export const COUNTER_LINE = "M110 N0";

/** A line as it is sent. */
export interface SentLine {
  number: number;
  text: string;
}

export interface LineWindow {
  /** The last lines sent, in order; the newest is the last. */
  readonly kept: readonly SentLine[];
  /** How many lines were sent, each counted once. */
  readonly sent: number;
  /** How many of them were taken. */
  readonly taken: number;
  /** How many of the kept ones, from the end, are to be sent again; 0 if none. */
  readonly again: number;
  /** Asked for again since anything was taken. */
  readonly asks: number;
  /** Somebody else has set the printer's counter: it must be set anew before the next fresh line. */
  readonly recount: boolean;
}

/** The window of a stream that has not begun. */
export const freshWindow: LineWindow = { kept: [], sent: 0, taken: 0, again: 0, asks: 0, recount: false };

/** The line that must be sent next: one asked for again, or the counter's; null if it is a fresh one's turn. */
export function lineDue({ kept, again, recount }: LineWindow): SentLine | null {
  if (again > 0) return kept[kept.length - again];
  const last = kept.at(-1);
  if (!last) return { number: 0, text: COUNTER_LINE };
  if (recount || (last.number >= HIGHEST_NUMBER && last.text !== COUNTER_LINE)) {
    return { number: last.number + 1, text: COUNTER_LINE };
  }
  return null;
}

/** A fresh line with its number. */
export function numbered({ kept }: LineWindow, text: string): SentLine {
  const last = kept.at(-1)!;
  return { number: last.text === COUNTER_LINE ? 1 : last.number + 1, text };
}

/** The window once a line that was due, or a fresh one, is on its way. Sent again, it is not counted anew. */
export function withSent(window: LineWindow, line: SentLine): LineWindow {
  if (window.again > 0) return { ...window, again: window.again - 1 };
  const kept = window.kept.length < KEPT_LINES ? [...window.kept, line] : [...window.kept.slice(1), line];
  return { ...window, kept, sent: window.sent + 1, recount: false };
}

/** The window when the printer's counter was set by somebody else. */
export function withForeignCount(window: LineWindow): LineWindow {
  return { ...window, recount: window.sent > 0 };
}

/** How many lines in front of those to be sent again the printer must have: the place of the line in flight, counted from 1. */
const placeInFlight = ({ sent, again }: LineWindow) => sent - again;

/** The printer has taken the line in flight. `lines`: those that count as taken for the first time, without the counter's. */
export function withTaken(window: LineWindow): { window: LineWindow; lines: string[] } {
  return takenUpTo(window, placeInFlight(window));
}

function takenUpTo(window: LineWindow, place: number): { window: LineWindow; lines: string[] } {
  const { kept, sent, taken } = window;
  if (place <= taken) return { window, lines: [] };
  const lines = kept
    .slice(kept.length - (sent - taken), kept.length - (sent - place))
    .flatMap(({ text }) => (text === COUNTER_LINE ? [] : [text]));
  // A storm is one that gets nothing through.
  return { window: { ...window, taken: place, asks: 0 }, lines };
}

/**
 * The printer asks for line `number`: everything in front of it counts as taken, and from there on is sent again. While the counter is
 * being set, its old count says nothing: only a question for line 1 means that it was set.
 */
export function withAsked(
  window: LineWindow,
  number: number,
): { window: LineWindow; lines: string[] } | { broken: string } {
  const { kept, sent, asks } = window;
  if (asks >= MOST_ASKS) return { broken: "The printer asks for the same lines again and again." };
  const asked = { ...window, asks: asks + 1 };
  const last = kept.at(-1);
  if (last?.text === COUNTER_LINE && window.taken < sent) {
    if (number !== 1) return { window: { ...asked, again: 1 }, lines: [] };
    return takenUpTo({ ...asked, again: 0 }, sent);
  }
  // The newest line of that number: behind a counter's line the numbers begin anew.
  const next = last ? numbered(window, "").number : 0;
  const index = number === next ? kept.length : kept.findLastIndex((line) => line.number === number);
  if (index < 0) return { broken: `The printer asks for line ${number}, which was not among the last ones sent.` };
  const { window: moved, lines } = takenUpTo(asked, sent - (kept.length - index));
  return { window: { ...moved, asks: lines.length > 0 ? 0 : asked.asks, again: kept.length - index }, lines };
}
