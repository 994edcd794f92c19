/** What a page hears of a printer: lines, temperatures and state, in server-sent events that resume without a gap. */
import type { LinkEvent } from "@/core/link/state";
import { linkEvents } from "../db/link-events";
import { hub } from "./hub";

/** Events of one moment go out together. */
const SEND_EVERY_MS = 20;
const STATUS_EVERY_MS = 120;
/** So that a page notices within two seconds that this program is gone. */
const BEAT_EVERY_MS = 1500;
/** Lines shown at first, and at most per message. */
const FIRST_LINES = 400;
const MOST_LINES = 1000;

interface Wish {
  /** The last event the page has; null for a page that has none. */
  afterId: number | null;
  all: boolean;
  heat: boolean;
  signal: AbortSignal;
}

const quiet = new Set(["job", "watch"]);

/** The stream for one page. */
export function eventStream(printerId: number, { afterId, all, heat, signal }: Wish): ReadableStream<Uint8Array> {
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
    stopListening();
    for (const end of ends) end();
    ends = [];
    for (const timer of [linesTimer, statusTimer]) if (timer) clearTimeout(timer);
    if (beat) clearInterval(beat);
  };

  return new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (event: string, data: unknown, id?: number) => {
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
      let last = afterId;
      for (;;) {
        const before =
          last === null
            ? linkEvents.last(printerId, FIRST_LINES, all)
            : linkEvents.after(printerId, last, MOST_LINES, all);
        if (before.length === 0) break;
        const full = last !== null && before.length === MOST_LINES;
        last = before[before.length - 1].id;
        send("lines", before, last);
        if (!full) break;
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
