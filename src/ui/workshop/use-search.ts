"use client";
/** A search through a whole file, however large: its hits as they are found, how far it is, and a way to end it. */
import { useEffect, useRef, useState } from "react";
import type { Hits } from "@/core/edits/look";

export interface Search {
  hits: Hits["hits"];
  /** Null until all of the file was looked through. */
  count: number | null;
  /** How much was looked through, 0 to 1. */
  share: number;
  isRunning: boolean;
  cancel(): void;
}

const nothing = { hits: [] as Hits["hits"], count: null as number | null, share: 0, isRunning: false };
/** Typing rests so long before the file is gone through. */
const RESTS_MS = 200;

type News = Partial<{ line: number; text: string; share: number; count: number }>;

/** @param path of the search, without the text; a search of fewer than two letters is none */
export function useSearch(path: string, text: string): Search {
  const [state, setState] = useState(nothing);
  const running = useRef<AbortController | null>(null);
  useEffect(() => {
    setState(nothing);
    if (text.length < 2) return;
    const stop = new AbortController();
    running.current = stop;
    const timer = setTimeout(() => {
      setState({ ...nothing, isRunning: true });
      void listen(`${path}&text=${encodeURIComponent(text)}`, stop.signal, (news) =>
        setState((now) => ({
          ...now,
          hits: [
            ...now.hits,
            ...news.flatMap(({ line, text: found }) => (line === undefined ? [] : [{ line, text: found! }])),
          ],
          share: news.reduce((share, one) => one.share ?? share, now.share),
          count: news.find(({ count }) => count !== undefined)?.count ?? now.count,
        })),
      )
        .catch(() => undefined)
        .finally(() => !stop.signal.aborted && setState((now) => ({ ...now, isRunning: false })));
    }, RESTS_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [path, text]);
  const cancel = () => {
    running.current?.abort();
    setState((now) => ({ ...now, isRunning: false }));
  };
  return { ...state, cancel };
}

/** Hears an answer of lines of JSON, as many at a time as have come. */
async function listen(path: string, signal: AbortSignal, onNews: (news: News[]) => void): Promise<void> {
  const answer = await fetch(`/api${path}`, { signal, headers: { Accept: "application/x-ndjson" } });
  if (!answer.ok || !answer.body) throw new Error("The search could not be made.");
  const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + value).split("\n");
    rest = lines.pop() ?? "";
    onNews(lines.filter(Boolean).map((line) => JSON.parse(line) as News));
  }
}
