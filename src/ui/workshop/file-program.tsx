"use client";
/** The whole text of an opened file, however large: fetched in windows as it is scrolled, searched, and explained line by line. */
import { useQueries, useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Button } from "antd";
import { KeyboardEvent, useEffect, useRef, useState } from "react";
import { explainLine } from "@/core/firmware/explain";
import type { Held } from "@/core/firmware/holds";
import type { Hits } from "@/core/edits/look";
import { readingOf } from "@/core/machine/reading";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { NumberField } from "../common/number-field";
import { TextField } from "../common/text-field";
import { Toggle } from "../common/toggle";
import { MeaningOf } from "../trials/line-meaning";
import styles from "./file-program.module.css";
import type { FilePageState } from "./use-file-page";

const ROW_PX = 20;
const WINDOW = 200;
/** Browsers draw no page taller than this, px; longer programs are gone through in stretches. Common practice, no source. */
const MOST_ROWS = 1_200_000;
const RESTS_MS = 150;

export function FileProgram({ page, roomPx }: { page: FilePageState; roomPx: number }) {
  const { file, report, answer, cursor, printer, waiting } = page;
  const [isEdited, setEdited] = useState(true);
  const [line, setLine] = useState(0);
  const [base, setBase] = useState(0);
  const [wanted, setWanted] = useState("");
  const scroll = useRef<HTMLDivElement>(null);
  const changed = answer.edits.reduce((sum, { changedLines }) => sum + changedLines, 0);
  // At most so many: lines that only change add none.
  const total = report.lines + (isEdited ? changed : 0);
  const rows = Math.min(MOST_ROWS, total - base);
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_PX,
    overscan: 20,
  });
  const version = isEdited ? answer.version : 0;
  const windows = useWindows(
    file.id,
    version,
    isEdited,
    virtual.getVirtualItems().map(({ index }) => base + index),
  );
  const goTo = (to: number) => {
    const next = Math.max(0, Math.min(total - 1, to));
    const start = Math.floor(next / MOST_ROWS) * MOST_ROWS;
    setBase(start);
    setLine(next);
    // The list may have to become longer first.
    requestAnimationFrame(() => virtual.scrollToIndex(next - start, { align: "center" }));
  };
  const search = useQuery({
    queryKey: keys.fileSearch(file.id, version, wanted),
    enabled: wanted.length > 1 && !waiting,
    queryFn: () =>
      api.get<Hits>(`/files/${file.id}/search?text=${encodeURIComponent(wanted)}&edited=${isEdited ? 1 : 0}`),
  });
  const press = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 25, PageUp: -25 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    goTo(line + by);
  };
  return (
    <div className={styles.program}>
      <div className={styles.bar}>
        <TextField
          aria-label="Search the program"
          placeholder="Search"
          value={wanted}
          maxLength={200}
          onChange={setWanted}
        />
        <SearchHits hits={search.data} isSearching={search.isFetching} line={line} onGo={goTo} />
        <NumberField
          label="Go to line"
          hideLabel={false}
          value={line + 1}
          unit=""
          low={1}
          high={Math.max(1, total)}
          decimals={0}
          width={72}
          onChange={(to) => goTo(to - 1)}
        />
        <Button
          size="small"
          onClick={() => goTo(report.layers[Math.min(cursor, report.layers.length - 1)].insertLine - 1)}
        >
          Layer {cursor + 1}
        </Button>
        {changed > 0 && (
          <label className={styles.edited}>
            <Toggle checked={isEdited} onChange={setEdited} /> with the edits
          </label>
        )}
      </div>
      <div
        ref={scroll}
        className={styles.text}
        style={{ height: Math.max(200, roomPx - 200) }}
        tabIndex={0}
        role="region"
        aria-label="Program text"
        onKeyDown={press}
      >
        <div style={{ height: virtual.getTotalSize(), position: "relative" }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const number = base + index;
            const text = windows.get(Math.floor(number / WINDOW))?.[number % WINDOW];
            return (
              <div
                key={number}
                className={styles.line}
                data-on={number === line || undefined}
                data-ours={text?.includes("; cuchara:") || undefined}
                style={{ top: start, height: ROW_PX }}
                onClick={() => setLine(number)}
              >
                <span className={styles.number}>{number + 1}</span>
                <span>{text ?? ""}</span>
              </div>
            );
          })}
        </div>
      </div>
      <Meaning
        fileId={file.id}
        line={line}
        isEdited={isEdited}
        version={version}
        text={windows.get(Math.floor(line / WINDOW))?.[line % WINDOW] ?? ""}
        printer={printer}
      />
    </div>
  );
}

/** The windows that the lines lie in, as far as they have come. */
function useWindows(fileId: number, version: number, isEdited: boolean, lines: number[]): Map<number, string[]> {
  const numbers = [...new Set(lines.map((line) => Math.floor(line / WINDOW)))];
  const answers = useQueries({
    queries: numbers.map((number) => ({
      queryKey: keys.fileLines(fileId, version, number),
      staleTime: Infinity,
      queryFn: () =>
        api.get<{ lines: string[] }>(
          `/files/${fileId}/lines?from=${number * WINDOW}&count=${WINDOW}&edited=${isEdited ? 1 : 0}`,
        ),
    })),
  });
  return new Map(numbers.flatMap((number, i) => (answers[i].data ? [[number, answers[i].data.lines] as const] : [])));
}

interface HitsProps {
  hits: Hits | undefined;
  isSearching: boolean;
  line: number;
  onGo(line: number): void;
}

function SearchHits({ hits, isSearching, line, onGo }: HitsProps) {
  if (isSearching) return <span className="dim">Searching …</span>;
  if (!hits) return null;
  if (hits.count === 0) return <span className="dim">found nowhere</span>;
  const next = hits.hits.find((hit) => hit.line > line) ?? hits.hits[0];
  const last = [...hits.hits].reverse().find((hit) => hit.line < line) ?? hits.hits[hits.hits.length - 1];
  return (
    <>
      <span className="dim" aria-live="polite">
        found {hits.count === 1 ? "once" : `${hits.count.toLocaleString("en")} times`}
      </span>
      <Button size="small" onClick={() => onGo(last.line)} aria-label="The hit before">
        ↑
      </Button>
      <Button size="small" onClick={() => onGo(next.line)} aria-label="The next hit">
        ↓
      </Button>
    </>
  );
}

interface MeaningProps {
  fileId: number;
  line: number;
  isEdited: boolean;
  version: number;
  text: string;
  printer: FilePageState["printer"];
}

/** The line under the cursor word by word, and what holds there; asked for when the cursor rests. */
function Meaning({ fileId, line, isEdited, version, text, printer }: MeaningProps) {
  const [resting, setResting] = useState(line);
  useEffect(() => {
    const timer = setTimeout(() => setResting(line), RESTS_MS);
    return () => clearTimeout(timer);
  }, [line]);
  const state = useQuery({
    queryKey: keys.fileState(fileId, version, resting),
    queryFn: () => api.get<{ holds: Held[] }>(`/files/${fileId}/state?line=${resting}&edited=${isEdited ? 1 : 0}`),
  });
  const words = text === "" ? null : explainLine(text, printer ? readingOf(printer) : undefined);
  return <MeaningOf line={line} words={words} holds={resting === line ? (state.data?.holds ?? []) : []} />;
}
