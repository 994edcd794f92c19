"use client";
/** Where lines are typed: completion, history, snippets, and a question before what is dangerous. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Dropdown, Input } from "antd";
import { KeyboardEvent, useRef, useState } from "react";
import { completions } from "@/core/machine/commands";
import { readingOf } from "@/core/machine/reading";
import { Danger, dangerOf } from "@/core/firmware/danger";
import type { LinkStatus } from "@/core/link/state";
import { api, SavedPrinter } from "../common/api";

import { keys } from "../common/keys";
import { useAsk, useTell } from "../common/talk";
import styles from "./console.module.css";

const HISTORY_KEY = "cuchara-typed-lines";
const MOST_TYPED = 200;

interface Snippet {
  id: number;
  name: string;
  lines: string[];
}

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
        <Input.TextArea
          ref={(handle) => void (field.current = handle?.resizableTextArea?.textArea ?? null)}
          aria-label="Lines to send"
          className="mono"
          autoSize={{ minRows: 1, maxRows: 8 }}
          placeholder={open ? "M115" : "Link the printer first"}
          spellCheck={false}
          value={text}
          onChange={(event) => setText(event.target.value)}
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

function Snippets({ lines, onTake }: { lines: string[]; onTake(lines: string[]): void }) {
  const client = useQueryClient();
  const tell = useTell();
  const ask = useAsk();
  const snippets = useQuery({ queryKey: keys.snippets, queryFn: () => api.get<Snippet[]>("/snippets") }).data ?? [];
  const change = async (act: Promise<unknown>) => {
    try {
      await act;
      await client.invalidateQueries({ queryKey: keys.snippets });
    } catch (error) {
      tell.error(error);
    }
  };
  const save = async () => {
    let name = lines[0]?.slice(0, 40) ?? "";
    const sure = await ask({
      title: `Save ${lines.length === 1 ? "this line" : `these ${lines.length} lines`}`,
      content: (
        <Input aria-label="Name of the snippet" defaultValue={name} onChange={(event) => (name = event.target.value)} />
      ),
      okText: "Save",
    });
    if (sure) await change(api.post("/snippets", { name, lines }));
  };
  const remove = async (id: number, name: string) => {
    if (await ask({ title: `Remove “${name}”?`, okText: "Remove" })) await change(api.remove(`/snippets/${id}`));
  };
  return (
    <Dropdown
      trigger={["click"]}
      menu={{
        items: [
          ...snippets.map(({ id, name, lines: own }) => ({
            key: String(id),
            label: `${name} (${own.length === 1 ? "1 line" : `${own.length} lines`})`,
          })),
          ...(snippets.length > 0 ? [{ type: "divider" as const }] : []),
          { key: "save", label: "Save what is typed", disabled: lines.length === 0 },
          ...(snippets.length > 0
            ? [
                {
                  key: "remove",
                  label: "Remove",
                  children: snippets.map(({ id, name }) => ({ key: `remove-${id}`, label: name })),
                },
              ]
            : []),
        ],
        onClick({ key }) {
          if (key === "save") return void save();
          const removed = /^remove-(\d+)$/.exec(key);
          const snippet = snippets.find(({ id }) => id === Number(removed?.[1] ?? key));
          if (!snippet) return;
          if (removed) void remove(snippet.id, snippet.name);
          else onTake(snippet.lines);
        },
      }}
    >
      <Button>Snippets</Button>
    </Dropdown>
  );
}
