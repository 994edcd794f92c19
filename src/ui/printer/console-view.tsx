"use client";
/** The talk with a printer: exactly what was sent and what came back, with what it means beside it. */
import { useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useSearchParams } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { explainAnswer, explainLine, Explanation } from "@/core/firmware/explain";
import { readTalkLine } from "@/core/gcode/talk-line";
import { commandFor } from "@/core/machine/commands";
import { readingOf } from "@/core/machine/reading";
import type { LinkEvent } from "@/core/link/state";
import { Segments } from "../common/segments";
import { Toggle } from "../common/toggle";
import { Choice } from "../common/choice";
import { api, SavedPrinter } from "../common/api";
import { useRoom } from "../common/use-room";
import { Composer } from "./composer";
import type { LinkFeed } from "./link-feed";
import { keys } from "../common/keys";
import { TextField } from "../common/text-field";
import styles from "./console.module.css";

type Shown = "all" | "out" | "in";
const ROW_PX = 24;
const NO_LINES: LinkEvent[] = [];

interface Props {
  printer: SavedPrinter;
  feed: LinkFeed;
  /** The lines of jobs and the questions for temperatures are shown too. */
  all: boolean;
  onAll(all: boolean): void;
}

export function ConsoleView({ printer, feed, all, onAll }: Props) {
  const [shown, setShown] = useState<Shown>("all");
  const [search, setSearch] = useState("");
  const [chosen, setChosen] = useState<number | null>(null);
  const [day, setDay] = useState<string | null>(null);
  // A command that was looked up anywhere comes along to be typed on.
  const [typed, setTyped] = useState(useSearchParams().get("type") ?? "");
  const typedLine = typed.split("\n").findLast((line) => line.trim() !== "");
  const roomPx = useRoom(430, 200);
  const past = useQuery({
    queryKey: keys.linkDay(printer.id, day, all),
    enabled: day !== null,
    staleTime: 0,
    queryFn: () => api.get<LinkEvent[]>(`/link/log?printerId=${printer.id}&day=${day}&as=events${all ? "&all=1" : ""}`),
  }).data;
  const shownLines = day === null ? feed.lines : (past ?? NO_LINES);
  const lines = useMemo(() => {
    const wanted = search.trim().toLowerCase();
    return shownLines.filter(
      ({ direction, text }) =>
        (shown === "all" || direction === shown || direction === "note") &&
        (wanted === "" || text.toLowerCase().includes(wanted)),
    );
  }, [shownLines, shown, search]);
  const event =
    lines.find(({ id }) => id === chosen) ?? lines.findLast(({ direction }) => direction !== "note") ?? null;
  return (
    <div className="two-sides">
      <div>
        <div className="talk-tools">
          <Segments
            label="Lines shown"
            small
            value={shown}
            options={[
              { value: "all", label: "Both ways" },
              { value: "out", label: "Sent" },
              { value: "in", label: "Came back" },
            ]}
            onChange={setShown}
          />
          <TextField
            type="search"
            aria-label="Search the talk"
            placeholder="Search"
            className="picker"
            value={search}
            onChange={setSearch}
          />
          <label className="dim">
            <Toggle checked={all} onChange={onAll} label="Lines of jobs too" /> lines of jobs too
          </label>
          <DayChoice printerId={printer.id} day={day} onDay={setDay} />
        </div>
        <Talk printer={printer} lines={lines} chosen={event?.id ?? null} onChoose={setChosen} heightPx={roomPx} />
        <Composer printer={printer} status={feed.status ?? null} text={typed} onText={setTyped} />
      </div>
      <div className="side">
        <section className="card" aria-label="Word by word" aria-live="polite">
          <h2>Word by word</h2>
          {typedLine !== undefined ? (
            <WordByWord event={{ direction: "out", text: typedLine }} printer={printer} isTyped />
          ) : event ? (
            <WordByWord event={event} printer={printer} />
          ) : (
            <p className="dim">Every line is explained here, word by word.</p>
          )}
        </section>
      </div>
    </div>
  );
}

function explain({ direction, text }: Pick<LinkEvent, "direction" | "text">, printer: SavedPrinter): Explanation {
  if (direction === "note") return { title: "", parts: [] };
  return direction === "out" ? explainLine(text, readingOf(printer)) : explainAnswer(text);
}

function time(atMs: number): string {
  const at = new Date(atMs);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}.${String(Math.floor(at.getMilliseconds() / 100))}`;
}

function Talk(props: {
  printer: SavedPrinter;
  lines: LinkEvent[];
  chosen: number | null;
  onChoose(id: number): void;
  heightPx: number;
}) {
  const { printer, lines, chosen, onChoose, heightPx } = props;
  const box = useRef<HTMLDivElement>(null);
  const [follows, setFollows] = useState(true);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  useEffect(() => {
    if (follows && lines.length > 0) virtual.scrollToIndex(lines.length - 1);
  }, [lines, follows, virtual]);
  if (lines.length === 0) {
    return (
      <div className="empty" style={{ height: heightPx, marginTop: 0 }}>
        Nothing yet. Type a line below, for example M115, which asks for the firmware version.
      </div>
    );
  }
  return (
    <div className="around">
      <div
        ref={box}
        className={styles.talk}
        style={{ height: heightPx }}
        role="log"
        aria-label="Talk with the printer"
        tabIndex={0}
        onScroll={(event) => {
          const { scrollTop, scrollHeight, clientHeight } = event.currentTarget;
          setFollows(scrollHeight - scrollTop - clientHeight < ROW_PX * 1.5);
        }}
      >
        <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const line = lines[index];
            return (
              <div
                key={line.id}
                className={`${styles.line} ${styles[line.direction] ?? ""}`}
                data-on={line.id === chosen}
                style={{ top: start, height: ROW_PX }}
                onClick={() => onChoose(line.id)}
              >
                <span className={styles.when}>{time(line.atMs)}</span>
                <span
                  className={styles.way}
                  title={line.direction === "out" ? "sent" : line.direction === "in" ? "came back" : "note"}
                >
                  {line.direction === "out" ? "▸" : line.direction === "in" ? "◂" : "·"}
                </span>
                <span className={styles.raw}>{line.text}</span>
                <span className={styles.means}>{explain(line, printer).title}</span>
              </div>
            );
          })}
        </div>
      </div>
      {!follows && (
        <button className={styles.follow} onClick={() => setFollows(true)}>
          Scrolling is paused · go to the newest line
        </button>
      )}
    </div>
  );
}

interface WordsProps {
  event: Pick<LinkEvent, "direction" | "text">;
  printer: SavedPrinter;
  /** Not sent yet: what else could be said is told, too. */
  isTyped?: boolean;
}

function WordByWord({ event, printer, isTyped = false }: WordsProps) {
  const { title, parts } = explain(event, printer);
  const command = isTyped ? commandFor(readTalkLine(event.text).code) : undefined;
  const unsaid = Object.entries(command?.words ?? {}).filter(
    ([name]) => !parts.some(({ text }) => text.startsWith(name)),
  );
  return (
    <>
      <p className={`mono ${styles.rawLine}`}>{event.text}</p>
      {title && <p className="above strong">{title}</p>}
      <dl className={styles.words}>
        {parts.map(({ text, means }, i) => (
          <div key={i}>
            <dt className="mono">{text}</dt>
            <dd>{means}</dd>
          </div>
        ))}
      </dl>
      {unsaid.length > 0 && (
        <>
          <p className="dim">It may also say</p>
          <dl className={styles.words}>
            {unsaid.map(([name, means]) => (
              <div key={name}>
                <dt className="mono">{name}</dt>
                <dd>{means}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
      {event.direction === "note" && <p className="dim">A note by Cuchara; it was neither sent nor received.</p>}
    </>
  );
}

/** Choosing a day whose talk is read again. */
function DayChoice({
  printerId,
  day,
  onDay,
}: {
  printerId: number;
  day: string | null;
  onDay(day: string | null): void;
}) {
  const days = useQuery({
    queryKey: keys.linkDays(printerId),
    queryFn: () => api.get<{ day: string; lines: number }[]>(`/link/days?printerId=${printerId}`),
  });
  return (
    <span className="inline-line push">
      {day && <a href={`/api/link/log?printerId=${printerId}&day=${day}`}>Save as text</a>}
      <Choice
        label="Talk of which day"
        small
        className="picker"
        value={day ?? "now"}
        options={[
          { value: "now", label: "Talk as it goes" },
          ...(days.data ?? []).map(({ day: one, lines }) => ({
            value: one,
            label: `${one}, ${lines.toLocaleString("en")} lines`,
          })),
        ]}
        onOpen={() => void days.refetch()}
        onChange={(next) => onDay(next === "now" ? null : next)}
      />
    </span>
  );
}
