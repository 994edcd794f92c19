"use client";
/** A number with its unit, checked as it is typed: what is wrong stands next to it, and what was typed is never lost. */
import { useEffect, useId, useState } from "react";
import { plainNumber } from "@/core/units";
import { parseFigure } from "./figure";
import styles from "./number-field.module.css";

export interface NumberFieldProps {
  label: string;
  /** Undefined for a field that waits for its first number: it stands empty, with a hint. */
  value: number | undefined;
  unit: string;
  low: number;
  high: number;
  step?: number;
  decimals?: number;
  width?: number;
  hideLabel?: boolean;
  hint?: string;
  onChange(value: number): void;
  /** The field was emptied, which is fine; without it an empty field is wrong. */
  onEmpty?(): void;
}

export function NumberField(props: NumberFieldProps) {
  const {
    label,
    value,
    unit,
    low,
    high,
    step = 1,
    decimals = 3,
    width,
    hideLabel = true,
    hint,
    onChange,
    onEmpty,
  } = props;
  const id = useId();
  const said = value === undefined ? "" : plainNumber(value, decimals);
  const [text, setText] = useState(said);
  const [editing, setEditing] = useState(false);
  useEffect(() => {
    // What is wrong stays to be mended; what is right is shown as it was taken.
    if (!editing) setText((now) => (value === undefined && now.trim() !== "" ? now : said));
  }, [value, said, editing]);
  const parsed = parseFigure(text, low, high, unit);
  const mayBeEmpty = text.trim() === "" && (value === undefined || onEmpty !== undefined);
  const wrong = "wrong" in parsed && !mayBeEmpty ? parsed.wrong : null;
  const take = (next: string) => {
    setText(next);
    if (next.trim() === "") return onEmpty?.();
    const result = parseFigure(next, low, high, unit);
    if ("value" in result && result.value !== value) onChange(result.value);
    else if (!("value" in result)) onEmpty?.();
  };
  return (
    <span className={`${styles.field} ${wrong ? styles.wrong : ""}`}>
      <label htmlFor={id} className={hideLabel ? "visually-hidden" : "dim"}>
        {label}
      </label>
      <span className={styles.box}>
        <input
          id={id}
          style={width ? { width } : undefined}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={hint}
          aria-invalid={wrong !== null}
          aria-describedby={wrong ? `${id}-wrong` : undefined}
          onFocus={() => setEditing(true)}
          onBlur={() => setEditing(false)}
          onChange={(event) => take(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
            event.preventDefault();
            event.stopPropagation();
            const base = "value" in parsed ? parsed.value : (value ?? low);
            const next = base + (event.key === "ArrowUp" ? step : -step);
            take(plainNumber(Math.min(high, Math.max(low, next)), decimals));
          }}
        />
        <span className="unit">{unit}</span>
      </span>
      {wrong && (
        <span id={`${id}-wrong`} className="field-error" role="alert">
          {wrong}
        </span>
      )}
    </span>
  );
}
