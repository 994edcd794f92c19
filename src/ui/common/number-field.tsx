"use client";
/** A number with its unit, checked as it is typed: what is wrong stands next to it, and what was typed is never lost. */
import { useEffect, useId, useState } from "react";
import { plainNumber } from "@/core/units";

/** What the text means, or why it does not: accepts `215`, `215 °C`, `0,2`. */
export function parseFigure(
  text: string,
  low: number,
  high: number,
  unit: string,
): { value: number } | { wrong: string } {
  const bare = text.trim().replace(unit, "").trim().replace(",", ".");
  if (bare === "") return { wrong: "Type a number" };
  const value = Number(bare);
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(bare) || !Number.isFinite(value))
    return { wrong: `“${text.trim()}” is not a number` };
  if (value < low) return { wrong: `At least ${plainNumber(low)} ${unit}` };
  if (value > high) return { wrong: `At most ${plainNumber(high)} ${unit}` };
  return { value };
}

export interface NumberFieldProps {
  label: string;
  value: number;
  unit: string;
  low: number;
  high: number;
  step?: number;
  decimals?: number;
  width?: number;
  hideLabel?: boolean;
  onChange(value: number): void;
}

export function NumberField(props: NumberFieldProps) {
  const { label, value, unit, low, high, step = 1, decimals = 3, width, hideLabel = true, onChange } = props;
  const id = useId();
  const [text, setText] = useState(plainNumber(value, decimals));
  const [editing, setEditing] = useState(false);
  useEffect(() => {
    if (!editing) setText(plainNumber(value, decimals));
  }, [value, decimals, editing]);
  const parsed = parseFigure(text, low, high, unit);
  const take = (next: string) => {
    setText(next);
    const result = parseFigure(next, low, high, unit);
    if ("value" in result && result.value !== value) onChange(result.value);
  };
  return (
    <span className={`number-field${"wrong" in parsed ? " wrong" : ""}`}>
      <label htmlFor={id} className={hideLabel ? "visually-hidden" : "dim"}>
        {label}
      </label>
      <span className="box">
        <input
          id={id}
          style={width ? { width } : undefined}
          inputMode="decimal"
          autoComplete="off"
          value={text}
          aria-invalid={"wrong" in parsed}
          aria-describedby={"wrong" in parsed ? `${id}-wrong` : undefined}
          onFocus={() => setEditing(true)}
          onBlur={() => setEditing(false)}
          onChange={(event) => take(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
            event.preventDefault();
            event.stopPropagation();
            const base = "value" in parsed ? parsed.value : value;
            const next = base + (event.key === "ArrowUp" ? step : -step);
            take(plainNumber(Math.min(high, Math.max(low, next)), decimals));
          }}
        />
        <span className="unit">{unit}</span>
      </span>
      {"wrong" in parsed && (
        <span id={`${id}-wrong`} className="field-error" role="alert">
          {parsed.wrong}
        </span>
      )}
    </span>
  );
}
