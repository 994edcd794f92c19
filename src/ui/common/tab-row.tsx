"use client";
import { KeyboardEvent, useRef } from "react";
import styles from "./tab-row.module.css";

interface Props<T extends string> {
  label: string;
  /** Steps of a way, or views of one thing. */
  look: "steps" | "views";
  tabs: readonly { key: T; label: string }[];
  chosen: T;
  onChoose(key: T): void;
}

/** A row of tabs: one stop of the Tab key, arrow keys go from one to the next. */
export function TabRow<T extends string>({ label, look, tabs, chosen, onChoose }: Props<T>) {
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
    <div ref={row} className={styles[look]} role="tablist" aria-label={label} onKeyDown={press}>
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
