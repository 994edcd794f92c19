"use client";
import { KeyboardEvent, useRef } from "react";

interface Props<T extends string> {
  label: string;
  className: "steps" | "views";
  tabs: readonly { key: T; label: string }[];
  chosen: T;
  onChoose(key: T): void;
}

/** A row of tabs: one stop of the Tab key, arrow keys go from one to the next. */
export function TabRow<T extends string>({ label, className, tabs, chosen, onChoose }: Props<T>) {
  const row = useRef<HTMLDivElement>(null);
  const press = (event: KeyboardEvent) => {
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const index = (tabs.findIndex(({ key }) => key === chosen) + step + tabs.length) % tabs.length;
    onChoose(tabs[index].key);
    row.current?.querySelectorAll("button")[index]?.focus();
  };
  return (
    <div ref={row} className={className} role="tablist" aria-label={label} onKeyDown={press}>
      {tabs.map(({ key, label: text }) => (
        <button
          key={key}
          role="tab"
          aria-selected={key === chosen}
          tabIndex={key === chosen ? 0 : -1}
          onClick={() => onChoose(key)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}
