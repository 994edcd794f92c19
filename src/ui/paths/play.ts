"use client";
/** A sheet played: where the nozzle is by the printer's own times, at any speed. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { SheetView } from "@/workers/sheet-messages";

/** So many times as fast as it would be printed. */
export const rates = [1, 4, 20, 100, 500];

/** Somebody who hears where the nozzle is, frame by frame. */
export type HearsPlace = (place: { move: number; share: number } | null) => void;

export interface Play {
  isOn: boolean;
  isRunning: boolean;
  /** For what is shown in words: a few times a second. */
  atS: number;
  totalS: number;
  rate: number;
  setRate(rate: number): void;
  toggle(): void;
  seek(atS: number): void;
  end(): void;
  /** Asks to hear every frame; gives back how to hear no more. */
  listen(hears: HearsPlace): () => void;
}

const SAID_EVERY_MS = 120;

export function usePlay(view: SheetView | null): Play {
  const [isOn, setOn] = useState(false);
  const [isRunning, setRunning] = useState(false);
  const [rate, setRate] = useState(20);
  const [saidS, setSaid] = useState(0);
  const at = useRef(0);
  const listeners = useRef(new Set<HearsPlace>());
  const totalS = view && view.endS.length > 0 ? view.endS[view.endS.length - 1] : 0;

  const tell = useCallback(() => {
    if (!view) return;
    const place = placeAt(view, at.current);
    for (const hears of listeners.current) hears(place);
  }, [view]);
  const end = useCallback(() => {
    setOn(false);
    setRunning(false);
    at.current = 0;
    setSaid(0);
    for (const hears of listeners.current) hears(null);
  }, []);
  // Another sheet is another film.
  useEffect(() => end, [view, end]);

  useEffect(() => {
    if (!isRunning || !view) return;
    let frame = 0;
    let last = performance.now();
    let said = 0;
    const step = (now: number) => {
      at.current = Math.min(totalS, at.current + ((now - last) / 1000) * rate);
      last = now;
      tell();
      if (now - said > SAID_EVERY_MS) {
        said = now;
        setSaid(at.current);
      }
      if (at.current < totalS) frame = requestAnimationFrame(step);
      else {
        setSaid(totalS);
        setRunning(false);
      }
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [isRunning, view, rate, totalS, tell]);

  return {
    isOn,
    isRunning,
    atS: saidS,
    totalS,
    rate,
    setRate,
    toggle() {
      if (!isRunning && at.current >= totalS) at.current = 0;
      setOn(true);
      setRunning(!isRunning);
    },
    seek(atS) {
      at.current = atS;
      setOn(true);
      setSaid(atS);
      tell();
    },
    end,
    listen: useCallback((hears: HearsPlace) => {
      listeners.current.add(hears);
      return () => void listeners.current.delete(hears);
    }, []),
  };
}

/** The move the nozzle is in at a time, and how far in it. */
export function placeAt({ endS }: Pick<SheetView, "endS">, atS: number): { move: number; share: number } {
  let [low, high] = [0, endS.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (endS[middle] < atS) low = middle + 1;
    else high = middle;
  }
  const from = low > 0 ? endS[low - 1] : 0;
  const lasts = endS[low] - from;
  return { move: low, share: lasts > 0 ? Math.max(0, Math.min(1, (atS - from) / lasts)) : 1 };
}
