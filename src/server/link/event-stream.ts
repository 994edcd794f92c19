/** What a page hears of a printer: lines, temperatures and state, in server-sent events that resume without a gap. */
import type { LinkEvent } from "@/core/link/state";
import { linkEvents } from "../db/link-events";
import { Refused } from "../refused";
import { hub } from "./hub";

/** Events of one moment go out together. */
const SEND_EVERY_MS = 20;
const STATUS_EVERY_MS = 120;
/** So that a page notices within two seconds that this program is gone. */
const BEAT_EVERY_MS = 1500;
/** Lines shown at first, and at most per message. */
const FIRST_LINES = 400;
const MOST_LINES = 1000;
/** A page that was away gets so many lines at most; what lies before them stands in the talk of the day. */
const MOST_MISSED = 3000;
/** Pages of one caller that listen at once, over all printers: no device takes the bench's own away. */
export const MOST_STREAMS = 50;
/** A page that does not read is let go with so many messages unread; it comes back and resumes. */
const MOST_UNREAD = 600;

// Counted per process: route handlers are loaded apart from one another.
const shared = globalThis as { cucharaStreams?: Map<string, number> };
const streams = () => (shared.cucharaStreams ??= new Map());

interface StreamOptions {
  /** Who listens. */
  caller: string;
  /** The last event the page has; null for a page that has none. */
  afterId: number | null;
  all: boolean;
  heat: boolean;
  signal: AbortSignal;
}

const quiet = new Set(["job", "watch"]);

/** The stream for one page; refused when too many listen already. */
export function eventStream(
  printerId: number,
  { caller, afterId, all, heat, signal }: StreamOptions,
): ReadableStream<Uint8Array> {
  const count = streams().get(caller) ?? 0;
  if (count >= MOST_STREAMS) {
    throw new Refused("busy", `${MOST_STREAMS} pages of this device listen already. Close some of them.`);
  }
  streams().set(caller, count + 1);
  let isReleased = false;
  const encoder = new TextEncoder();
  const { journal, links } = hub();
  const wanted = ({ source }: LinkEvent) => all || !quiet.has(source);
  let waiting: LinkEvent[] = [];
  let linesTimer: ReturnType<typeof setTimeout> | null = null;
  let statusTimer: ReturnType<typeof setTimeout> | null = null;
  let beat: ReturnType<typeof setInterval> | null = null;
  let ends: (() => void)[] = [];
  let link = links.get(printerId);
  let heatIndex = link?.samples.at(-1)?.index ?? -1;
  let stopListening: () => void = () => undefined;
  /** Ends everything that was begun for this page, whichever way it went. */
  const release = () => {
    if (!isReleased) {
      const left = (streams().get(caller) ?? 1) - 1;
      if (left > 0) streams().set(caller, left);
      else streams().delete(caller);
    }
    isReleased = true;
    stopListening();
    for (const end of ends) end();
    ends = [];
    for (const timer of [linesTimer, statusTimer]) if (timer) clearTimeout(timer);
    if (beat) clearInterval(beat);
  };

  return new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (event: string, data: unknown, id?: number) => {
        if (isReleased) return;
        if ((controller.desiredSize ?? 0) < -MOST_UNREAD) return stop();
        try {
          controller.enqueue(
            encoder.encode(
              `${id === undefined ? "" : `id: ${id}\n`}event: ${event}\ndata: ${JSON.stringify(data)}\n\n`,
            ),
          );
        } catch {
          stop();
        }
      };
      const sendLines = () => {
        linesTimer = null;
        const events = waiting;
        waiting = [];
        for (let from = 0; from < events.length; from += MOST_LINES) {
          const part = events.slice(from, from + MOST_LINES);
          send("lines", part, part[part.length - 1].id);
        }
      };
      const sendStatus = () => {
        statusTimer = null;
        send("status", link ? link.status() : null);
        const fresh = link?.samples.filter(({ index }) => index > heatIndex) ?? [];
        if (fresh.length === 0) return;
        heatIndex = fresh[fresh.length - 1].index;
        send("heat", fresh);
      };
      // A link may be made anew while the page stays.
      const follow = () => {
        for (const end of ends) end();
        ends = link ? [link.listen(() => (statusTimer ??= setTimeout(sendStatus, STATUS_EVERY_MS)))] : [];
        if (link && heat) ends.push(link.watch());
      };
      const stop = () => {
        release();
        try {
          controller.close();
        } catch {
          // Closed already.
        }
      };

      // First what was said before, then what is said from now on: nothing is said in between, this is one breath.
      journal.store();
      const most = afterId === null ? FIRST_LINES : MOST_MISSED;
      const before = linkEvents.last(printerId, most, all, afterId ?? 0);
      if (afterId !== null && before.length === most) {
        const text = "Lines were left out here: find them in the log of the day.";
        before.unshift({ ...before[0], id: before[0].id - 1, direction: "note", source: "console", text });
      }
      for (let from = 0; from < before.length; from += MOST_LINES) {
        const part = before.slice(from, from + MOST_LINES);
        send("lines", part, part[part.length - 1].id);
      }
      stopListening = journal.listen((ofPrinter, event) => {
        if (ofPrinter !== printerId || !wanted(event)) return;
        waiting.push(event);
        linesTimer ??= setTimeout(sendLines, SEND_EVERY_MS);
      });
      follow();
      sendStatus();
      beat = setInterval(() => {
        const now = links.get(printerId);
        if (now !== link) {
          link = now;
          heatIndex = -1;
          follow();
        }
        send("beat", {});
        if (!statusTimer) sendStatus();
      }, BEAT_EVERY_MS);
      signal.addEventListener("abort", stop);
      if (signal.aborted) stop();
    },
    cancel: release,
  });
}
