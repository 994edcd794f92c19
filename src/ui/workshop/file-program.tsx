"use client";
/** The whole text of an opened file, however large: fetched in windows as it is scrolled, searched, and explained line by line. */
import { useQueries, useQuery } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Button } from "antd";
import { KeyboardEvent, useEffect, useRef, useState } from "react";
import { explainLine } from "@/core/firmware/explain";
import type { Held } from "@/core/firmware/holds";
import type { WindowChange } from "@/core/edits/splices/windows";
import { readingOf } from "@/core/machine/reading";
import { HEIGHT_TOLERANCE_MM } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import { NumberField } from "../common/number-field";
import { TextField } from "../common/text-field";
import { Toggle } from "../common/toggle";
import { MeaningOf } from "../trials/line-meaning";
import styles from "./file-program.module.css";
import { Search, useSearch } from "./use-search";
import type { FilePageState } from "./use-file-page";

const ROW_PX = 20;
const WINDOW = 200;
/** Browsers draw no page taller than this, px; longer programs are gone through in stretches. Common practice, no source. */
const MOST_ROWS = 1_200_000;
const RESTS_MS = 150;

export function FileProgram({ page, roomPx }: { page: FilePageState; roomPx: number }) {
  const { file, report, answer, printer, waiting } = page;
  const { programLine: line, setProgramLine: setLine, askedLine } = page;
  const line0 = useRef(line);
  const [isEdited, setEdited] = useState(true);
  const [base, setBase] = useState(Math.floor(line / MOST_ROWS) * MOST_ROWS);
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
  // Where a finding leads, each time it is followed; else where it was left.
  const go = useRef(goTo);
  go.current = goTo;
  useEffect(() => go.current(askedLine?.line ?? line0.current), [askedLine]);
  const search = useSearch(
    `/files/${file.id}/search?edited=${isEdited ? 1 : 0}&version=${version}`,
    waiting ? "" : wanted,
  );
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
        <SearchHits search={search} line={line} onGo={goTo} />
        <Places page={page} line={line} total={total} onGo={goTo} />
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
            const window = windows.get(Math.floor(number / WINDOW));
            return (
              <ProgramLine
                key={number}
                number={number}
                text={window?.lines[number % WINDOW] ?? ""}
                was={isEdited ? wasAt(window, number) : null}
                isOn={number === line}
                topPx={start}
                onChoose={() => setLine(number)}
              />
            );
          })}
        </div>
      </div>
      <Meaning
        fileId={file.id}
        line={line}
        isEdited={isEdited}
        version={version}
        text={windows.get(Math.floor(line / WINDOW))?.lines[line % WINDOW] ?? ""}
        printer={printer}
      />
    </div>
  );
}

interface PlacesProps {
  page: FilePageState;
  line: number;
  total: number;
  onGo(line: number): void;
}

/** Ways to go somewhere: a line, a height, the layer of the log's cursor. */
function Places({ page, line, total, onGo }: PlacesProps) {
  const { report, cursor, setCursor, topMm } = page;
  const here = report.layers[Math.min(cursor, report.layers.length - 1)];
  return (
    <>
      <NumberField
        label="Go to line"
        hideLabel={false}
        value={line + 1}
        unit=""
        low={1}
        high={Math.max(1, total)}
        decimals={0}
        width={72}
        onChange={(to) => onGo(to - 1)}
      />
      <NumberField
        label="Go to height"
        hideLabel={false}
        value={here.zMm}
        unit="mm"
        low={0}
        high={topMm}
        decimals={2}
        width={52}
        onChange={(mm) => {
          const layer = Math.max(0, layerAtOrAbove(report.layers, mm));
          setCursor(layer);
          onGo(report.layers[layer].insertLine - 1);
        }}
      />
      <Button size="small" onClick={() => onGo(here.insertLine - 1)}>
        Layer {cursor + 1}
      </Button>
    </>
  );
}

const layerAtOrAbove = (layers: FilePageState["report"]["layers"], mm: number) =>
  layers.findIndex(({ zMm }) => zMm >= mm - HEIGHT_TOLERANCE_MM);

interface LineProps {
  number: number;
  text: string;
  was: Was | null;
  isOn: boolean;
  topPx: number;
  onChoose(): void;
}

/** One line; where edits have made it another, what it was stands behind it. */
function ProgramLine({ number, text, was, isOn, topPx, onChoose }: LineProps) {
  return (
    <div
      className={styles.line}
      data-on={isOn || undefined}
      data-ours={was?.isNew || undefined}
      style={{ top: topPx, height: ROW_PX }}
      onClick={onChoose}
    >
      <span className={styles.number}>{number + 1}</span>
      <span>{text}</span>
      {was && was.before.length > 0 && <del className={styles.was}>{was.before.join(" ⏎ ")}</del>}
    </div>
  );
}

interface ProgramWindow {
  lines: string[];
  changes: WindowChange[];
}

interface Was {
  before: string[];
  isNew: boolean;
}

/** What stood at a line before the edits; null where nothing was changed. */
function wasAt(window: ProgramWindow | undefined, line: number): Was | null {
  const change = window?.changes.find((one) => line >= one.line && line < one.line + Math.max(1, one.lines));
  if (!change) return null;
  // A line that was taken out stands beside the one that follows it.
  return { before: line === change.line ? change.before : [], isNew: change.lines > 0 };
}

/** The windows that the lines lie in, as far as they have come. */
function useWindows(fileId: number, version: number, isEdited: boolean, lines: number[]): Map<number, ProgramWindow> {
  const numbers = [...new Set(lines.map((line) => Math.floor(line / WINDOW)))];
  const answers = useQueries({
    queries: numbers.map((number) => ({
      queryKey: keys.fileLines(fileId, version, number),
      staleTime: Infinity,
      queryFn: () =>
        api.get<ProgramWindow>(
          `/files/${fileId}/lines?from=${number * WINDOW}&count=${WINDOW}&edited=${isEdited ? 1 : 0}`,
        ),
    })),
  });
  return new Map(numbers.flatMap((number, i) => (answers[i].data ? [[number, answers[i].data] as const] : [])));
}

function SearchHits({ search, line, onGo }: { search: Search; line: number; onGo(line: number): void }) {
  const { hits, count, share, isRunning, cancel } = search;
  if (count === null && !isRunning && hits.length === 0) return null;
  if (count === 0) return <span className="dim">found nowhere</span>;
  const next = hits.find((hit) => hit.line > line) ?? hits[0];
  const last = hits.findLast((hit) => hit.line < line) ?? hits[hits.length - 1];
  const found = count ?? hits.length;
  return (
    <>
      <span className="dim" aria-live="polite">
        {count === null
          ? `${Math.round(share * 100)} % looked through, ${found} found`
          : `found ${found === 1 ? "once" : `${found.toLocaleString("en")} times`}`}
      </span>
      {isRunning && (
        <Button size="small" onClick={cancel}>
          Cancel
        </Button>
      )}
      {hits.length > 0 && (
        <>
          <Button size="small" onClick={() => onGo(last.line)} aria-label="The hit before">
            ↑
          </Button>
          <Button size="small" onClick={() => onGo(next.line)} aria-label="The next hit">
            ↓
          </Button>
        </>
      )}
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
