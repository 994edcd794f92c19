"use client";
/** The keys of reading: where one is, what one says, and what is looked at. */
import { KeyboardEvent, useEffect, useRef } from "react";
import type { Mark } from "@/core/reading/criterion";
import { isInDialog, isTyping } from "../frame/use-global-keys";

export function ReadingKeys() {
  return (
    <>
      <span>
        <kbd>↑</kbd> <kbd>↓</kbd> band
      </span>
      <span>
        <kbd>1</kbd>–<kbd>5</kbd> mark
      </span>
      <span>
        <kbd>0</kbd> cannot tell
      </span>
      <span>
        <kbd>Tab</kbd> next question
      </span>
      <span>
        <kbd>B</kbd> other side
      </span>
    </>
  );
}

/** Arrow keys go from band to band, 1 to 5 mark, 0 is “cannot tell”, B turns the piece; wherever nobody is typing. */
export function useReadingKeys(acts: {
  step(by: number): void;
  mark(mark: Mark | null): void;
  turn(): void;
  side?(by: number): void;
}): void {
  const now = useRef(acts);
  useEffect(() => {
    now.current = acts;
  });
  useEffect(() => {
    const press = (event: globalThis.KeyboardEvent | KeyboardEvent) => {
      const { target } = event as globalThis.KeyboardEvent;
      if (isTyping(target) || isInDialog(target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (target instanceof Element && target.closest("[data-keys=own]")) return;
      const isOnSelect = target instanceof HTMLSelectElement || target instanceof HTMLInputElement;
      if (/^[1-5]$/.test(event.key)) now.current.mark((Number(event.key) - 1) as Mark);
      else if (event.key.toLowerCase() === "b") now.current.turn();
      else if (event.key === "0") now.current.mark(null);
      else if (!isOnSelect && event.key === "ArrowRight" && now.current.side) now.current.side(1);
      else if (!isOnSelect && event.key === "ArrowLeft" && now.current.side) now.current.side(-1);
      else if (!isOnSelect && event.key === "ArrowUp") now.current.step(1);
      else if (!isOnSelect && event.key === "ArrowDown") now.current.step(-1);
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    // Before the log's own keys, which go from layer to layer.
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, []);
}
