"use client";
/** Where lines are typed: completion, history, snippets, and a question before what is dangerous. */
import { Button } from "antd";
import { KeyboardEvent, useRef, useState } from "react";
import { completions } from "@/core/machine/commands";
import { readingOf } from "@/core/machine/reading";
import { Danger, dangerOf } from "@/core/firmware/danger";
import type { LinkStatus } from "@/core/link/state";
import { api, SavedPrinter } from "../common/api";
import { TextArea } from "../common/text-field";
import { useAsk, useTell } from "../common/talk";
import { Snippets } from "./snippets";
import styles from "./console.module.css";

const HISTORY_KEY = "cuchara-typed-lines";
const MOST_TYPED = 200;

function typedBefore(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(HISTORY_KEY) ?? "[]");
    return Array.isArray(kept) ? kept.filter((line): line is string => typeof line === "string") : [];
  } catch {
    return [];
  }
}

/** Lines that should be asked about, each reason once. What is homed on the way counts from there on. */
function dangersOf(lines: string[], status: LinkStatus, printer: SavedPrinter): { line: string; danger: Danger }[] {
  const found: { line: string; danger: Danger }[] = [];
  let homed = status.homed;
  for (const line of lines) {
    const danger = dangerOf(line, { homed, nozzleC: status.nozzleC }, readingOf(printer));
    if (danger && !found.some((one) => one.danger.reason === danger.reason)) found.push({ line, danger });
    if (/^\s*G28\s*(;|$)/i.test(line)) homed = true;
  }
  return found;
}

interface Props {
  printer: SavedPrinter;
  status: LinkStatus | null;
  text: string;
  onText(text: string): void;
}

export function Composer({ printer, status, text, onText: setText }: Props) {
  const ask = useAsk();
  const tell = useTell();
  const [past, setPast] = useState<string[]>([]);
  const place = useRef<number | null>(null);
  const field = useRef<HTMLTextAreaElement | null>(null);
  const open = status?.state === "open";
  const offers = /^\S*$/.test(text) ? completions(text) : [];
  const lines = text.split("\n").filter((line) => line !== "");

  const send = async () => {
    if (!open || lines.length === 0) return;
    const dangers = dangersOf(lines, status, printer);
    if (dangers.length > 0) {
      const sure = await ask({
        title: lines.length === 1 ? `Send ${lines[0]}?` : `Send these ${lines.length} lines?`,
        content: dangers.map(({ line, danger }) => (
          <p key={danger.reason} className="above">
            <span className="mono">{line}</span>
            <br />
            {danger.reason}
          </p>
        )),
        okText: "Send",
        cancelText: "Do not send",
      });
      if (!sure) return;
    }
    try {
      await api.post("/link/lines", { printerId: printer.id, lines });
      const kept = [...(past.length > 0 ? past : typedBefore()).filter((line) => line !== text), text].slice(
        -MOST_TYPED,
      );
      setPast(kept);
      localStorage.setItem(HISTORY_KEY, JSON.stringify(kept));
      place.current = null;
      setText("");
    } catch (error) {
      tell.error(error);
    }
  };

  const recall = (step: number) => {
    const all = past.length > 0 ? past : typedBefore();
    if (all.length === 0) return;
    setPast(all);
    const next = Math.min(all.length, Math.max(0, (place.current ?? all.length) + step));
    place.current = next;
    setText(all[next] ?? "");
  };

  const press = (event: KeyboardEvent) => {
    const oneLine = !text.includes("\n");
    if (event.key === "Enter" && !event.shiftKey) {
      event.preventDefault();
      void send();
    } else if (event.key === "ArrowUp" && oneLine) {
      event.preventDefault();
      recall(-1);
    } else if (event.key === "ArrowDown" && oneLine) {
      event.preventDefault();
      recall(1);
    } else if (
      event.key === "Tab" &&
      !event.shiftKey &&
      offers.length > 0 &&
      offers[0].code !== text.trim().toUpperCase()
    ) {
      event.preventDefault();
      setText(`${offers[0].code} `);
    }
  };

  return (
    <div className={styles.composer}>
      <div className="line top">
        <TextArea
          ref={field}
          aria-label="Lines to send"
          className="mono"
          mostRows={8}
          placeholder={open ? "M115" : "Link the printer first"}
          spellCheck={false}
          value={text}
          onChange={setText}
          onKeyDown={press}
        />
        <Button className="go" disabled={!open || lines.length === 0} onClick={() => void send()}>
          {lines.length > 1 ? `Send ${lines.length} lines` : "Send"}
        </Button>
        <Snippets
          lines={lines}
          onTake={(taken) => {
            setText(taken.join("\n"));
            field.current?.focus();
          }}
        />
      </div>
      <div className={styles.offers} aria-live="polite">
        {offers.length > 0 ? (
          offers.map(({ code, does }) => (
            <button key={code} onClick={() => (setText(`${code} `), field.current?.focus())}>
              <span className="mono">{code}</span> {does}
            </button>
          ))
        ) : (
          <span className="dim">
            <kbd>Enter</kbd> sends, <kbd>↑</kbd> what was typed before, <kbd>Tab</kbd> completes; several lines can be
            pasted and go out one by one.
          </span>
        )}
      </div>
    </div>
  );
}
