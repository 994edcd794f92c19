"use client";
/** What was measured: fields that start empty, because a reading is never guessed. */
import { useId, useState } from "react";
import type { TuneReading } from "@/core/measure/tune";
import { plainNumber } from "@/core/units";
import { parseFigure } from "../common/number-field";

interface Props {
  fields: TuneReading[];
  readings: Record<string, number>;
  onChange(readings: Record<string, number>): void;
}

export function ReadingFields({ fields, readings, onChange }: Props) {
  return (
    <div className="field-row">
      {fields.map((field) => (
        <ReadingField
          key={field.key}
          field={field}
          value={readings[field.key]}
          onChange={(value) => {
            const { [field.key]: _, ...others } = readings;
            onChange(value === undefined ? others : { ...others, [field.key]: value });
          }}
        />
      ))}
    </div>
  );
}

function ReadingField({
  field,
  value,
  onChange,
}: {
  field: TuneReading;
  value: number | undefined;
  onChange(value: number | undefined): void;
}) {
  const { label, unit, low, high, decimals } = field;
  const id = useId();
  const [text, setText] = useState("");
  const [editing, setEditing] = useState(false);
  const shown = editing ? text : value === undefined ? text : plainNumber(value, decimals);
  const parsed = shown.trim() === "" ? null : parseFigure(shown, low, high, unit);
  const wrong = parsed && "wrong" in parsed ? parsed.wrong : null;
  return (
    <span className={`number-field${wrong ? " wrong" : ""}`}>
      <label htmlFor={id} className="dim">
        {label}
      </label>
      <span className="box">
        <input
          id={id}
          style={{ width: 60 }}
          inputMode="decimal"
          autoComplete="off"
          value={shown}
          aria-invalid={wrong !== null}
          aria-describedby={wrong ? `${id}-wrong` : undefined}
          onFocus={() => {
            setText(shown);
            setEditing(true);
          }}
          onBlur={() => setEditing(false)}
          onChange={(event) => {
            setText(event.target.value);
            const next = event.target.value.trim() === "" ? null : parseFigure(event.target.value, low, high, unit);
            onChange(next && "value" in next ? next.value : undefined);
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
