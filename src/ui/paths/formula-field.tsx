"use client";
/** A formula: what it comes to stands behind it, names are completed as they are typed, and a plain number can be dragged by its label. */
import { KeyboardEvent, PointerEvent, useId, useMemo, useRef, useState } from "react";
import { namesAt, NameOffered, previewOf } from "@/core/sheets/preview";
import type { RowPath } from "@/core/sheets/rows";
import type { Expr, Sheet } from "@/core/sheets/sheet";
import { plainNumber, roundTo } from "@/core/units";
import { TextField } from "../common/text-field";
import styles from "./formula-field.module.css";

interface Props {
  label: string;
  /** For those who cannot see where it stands. */
  name: string;
  sheet: Sheet;
  /** The row it stands in; null outside of all. */
  path: RowPath | null;
  value: Expr | undefined;
  isWrong?: boolean;
  /** Shown where nothing is said. */
  hint?: string;
  /** No formula: a name, or a word to be laid. */
  isText?: boolean;
  /** Its label takes no more room than it needs. */
  isCompact?: boolean;
  /** Half a row is enough for it. */
  isHalf?: boolean;
  /** Its label stands above it. */
  isStacked?: boolean;
  onChange(text: string): void;
}

const PLAIN = /^\s*-?\d*\.?\d+\s*$/;
const WORD_BEFORE = /[A-Za-z_][A-Za-z0-9_]*$/;
const MOST_OFFERED = 7;
const PX_PER_STEP = 5;

/** A plain number some steps on; its last decimal counts. */
function stepped(text: string, steps: number): string {
  const decimals = (text.trim().split(".")[1] ?? "").length;
  return plainNumber(roundTo(Number(text) + steps * 10 ** -decimals, decimals), decimals);
}

export function FormulaField(props: Props) {
  const { label, name, sheet, path, isWrong = false, hint, isText = false, onChange } = props;
  const shape = props.isStacked ? styles.stacked : props.isCompact ? styles.compact : "";
  const text = String(props.value ?? "");
  const isPlain = PLAIN.test(text);
  const input = useRef<HTMLInputElement>(null);
  const listId = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [chosen, setChosen] = useState(0);
  const offered = useMemo(
    () => (typed === null || isText ? [] : offeredFor(sheet, path, typed)),
    [sheet, path, typed, isText],
  );
  const says = useMemo(() => {
    if (isText || isPlain || text.trim() === "") return "";
    const preview = previewOf(sheet, path, text);
    return preview.ok ? sayRange(preview.value) : "";
  }, [sheet, path, text, isPlain, isText]);

  const look = () => {
    const at = input.current?.selectionStart ?? 0;
    setTyped(WORD_BEFORE.exec(input.current?.value.slice(0, at) ?? "")?.[0] ?? null);
    setChosen(0);
  };
  const complete = ({ name: word, isFunction }: NameOffered) => {
    const at = input.current?.selectionStart ?? text.length;
    const before = text.slice(0, at).replace(WORD_BEFORE, "") + word + (isFunction ? "(" : "");
    onChange(before + text.slice(at));
    setTyped(null);
    requestAnimationFrame(() => input.current?.setSelectionRange(before.length, before.length));
  };
  const press = (event: KeyboardEvent) => {
    const step = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (offered.length > 0) {
      if (step !== 0) setChosen((now) => (now - step + offered.length) % offered.length);
      else if (event.key === "Enter" || event.key === "Tab") complete(offered[chosen]);
      else if (event.key === "Escape") setTyped(null);
      else return;
      event.preventDefault();
      event.stopPropagation();
    } else if (step !== 0 && isPlain && !isText) {
      event.preventDefault();
      onChange(stepped(text, step * (event.shiftKey ? 10 : 1)));
    }
  };
  return (
    <span className={`${styles.field} ${shape}`} data-half={props.isHalf || undefined}>
      <Scrub text={text} isPlain={isPlain && !isText} onChange={onChange}>
        {label}
      </Scrub>
      <span className={styles.box}>
        <TextField
          ref={input}
          role={isText ? undefined : "combobox"}
          aria-label={name}
          aria-expanded={isText ? undefined : offered.length > 0}
          aria-controls={offered.length > 0 ? listId : undefined}
          aria-autocomplete={isText ? undefined : "list"}
          aria-activedescendant={offered.length > 0 ? `${listId}-${chosen}` : undefined}
          autoComplete="off"
          spellCheck={false}
          value={text}
          placeholder={hint}
          wrong={isWrong}
          maxLength={500}
          onChange={(next) => {
            onChange(next);
            look();
          }}
          onKeyDown={press}
          onBlur={() => setTyped(null)}
        />
        {offered.length > 0 && (
          <ul id={listId} role="listbox" aria-label="Names to use" className={styles.list}>
            {offered.map((one, i) => (
              <li
                key={one.name}
                id={`${listId}-${i}`}
                role="option"
                aria-selected={i === chosen}
                onPointerDown={(event) => {
                  event.preventDefault();
                  complete(one);
                }}
              >
                <b>{one.name}</b> <span>{one.says}</span>
              </li>
            ))}
          </ul>
        )}
      </span>
      <span className={styles.says}>{says}</span>
    </span>
  );
}

/** Names that begin with what is typed; none where nothing else could be meant. */
function offeredFor(sheet: Sheet, path: RowPath | null, typed: string): NameOffered[] {
  const begun = typed.toLowerCase();
  const found = namesAt(sheet, path).filter(({ name }) => name.toLowerCase().startsWith(begun));
  return found.some(({ name }) => name === typed) ? [] : found.slice(0, MOST_OFFERED);
}

function sayRange({ least, most }: { least: number; most: number }): string {
  if (!Number.isFinite(least) || !Number.isFinite(most)) return "no value";
  const [low, high] = [plainNumber(least, 3), plainNumber(most, 3)];
  return low === high ? `= ${low}` : `${low} to ${high}`;
}

/** A label that a number is dragged by: a step every few pixels, ten with Shift. */
function Scrub(props: { text: string; isPlain: boolean; children: string; onChange(text: string): void }) {
  const { text, isPlain, children, onChange } = props;
  const from = useRef<{ x: number; text: string } | null>(null);
  if (!isPlain) return <span className={styles.label}>{children}</span>;
  const move = (event: PointerEvent) => {
    if (!from.current) return;
    const steps = Math.round((event.clientX - from.current.x) / PX_PER_STEP) * (event.shiftKey ? 10 : 1);
    onChange(stepped(from.current.text, steps));
  };
  return (
    <span
      className={`${styles.label} ${styles.scrub}`}
      title="Drag to change it"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, text };
      }}
      onPointerMove={move}
      onPointerUp={() => (from.current = null)}
      onPointerCancel={() => (from.current = null)}
    >
      {children}
    </span>
  );
}
