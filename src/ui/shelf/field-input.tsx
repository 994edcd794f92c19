"use client";
/** One field of a record with its label, unit, help and what is wrong with it. */
import { useId } from "react";
import { Toggle } from "../common/toggle";
import { Choice } from "../common/choice";
import { TextArea, TextField } from "../common/text-field";
import type { Field } from "./fields";
import styles from "./record-form.module.css";

interface Props<T> {
  field: Field<T>;
  value: unknown;
  problem?: string;
  onChange(value: unknown): void;
}

export function FieldInput<T>({ field, value, problem, onChange }: Props<T>) {
  const id = useId();
  const described =
    [problem ? `${id}-problem` : "", field.help ? `${id}-help` : ""].filter(Boolean).join(" ") || undefined;
  const common = {
    id,
    wrong: problem !== undefined,
    "aria-describedby": described,
  };
  return (
    <div className={field.kind === "lines" ? styles.whole : undefined}>
      <label htmlFor={id} className="dim">
        {field.label}
      </label>
      <div>
        {field.kind === "text" && (
          <TextField {...common} className={styles.text} value={String(value ?? "")} onChange={onChange} />
        )}
        {field.kind === "number" && (
          <TextField
            {...common}
            className={`mono ${styles.text}`}
            inputMode="decimal"
            autoComplete="off"
            value={String(value ?? "")}
            unit={field.unit}
            onChange={onChange}
          />
        )}
        {field.kind === "choice" && (
          <Choice
            id={id}
            describedBy={described}
            className={styles.choice}
            value={value as string}
            options={field.options}
            onChange={onChange}
          />
        )}
        {field.kind === "switch" && <Toggle id={id} checked={Boolean(value)} onChange={onChange} />}
        {field.kind === "colour" && (
          <input
            id={id}
            type="color"
            className={styles.colour}
            value={String(value)}
            onChange={(event) => onChange(event.target.value)}
          />
        )}
        {field.kind === "lines" && (
          <TextArea
            {...common}
            className="mono"
            leastRows={6}
            mostRows={16}
            spellCheck={false}
            value={String(value ?? "")}
            onChange={onChange}
          />
        )}
      </div>
      {field.help && (
        <div id={`${id}-help`} className={`dim ${styles.help}`}>
          {field.help}
        </div>
      )}
      {problem && (
        <div id={`${id}-problem`} className="field-error" role="alert">
          {problem}
        </div>
      )}
    </div>
  );
}
