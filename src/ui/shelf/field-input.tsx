"use client";
/** One field of a record with its label, unit, help and what is wrong with it. */
import { Input, Switch } from "antd";
import { useId } from "react";
import { Choice } from "../common/choice";
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
    "aria-invalid": problem !== undefined,
    "aria-describedby": described,
    status: problem ? ("error" as const) : undefined,
  };
  return (
    <div className={field.kind === "lines" ? styles.whole : undefined}>
      <label htmlFor={id} className="dim">
        {field.label}
      </label>
      <div>
        {field.kind === "text" && (
          <Input {...common} value={String(value ?? "")} onChange={(event) => onChange(event.target.value)} />
        )}
        {field.kind === "number" && (
          <Input
            {...common}
            className="mono"
            inputMode="decimal"
            autoComplete="off"
            value={String(value ?? "")}
            suffix={<span className="dim">{field.unit}</span>}
            onChange={(event) => onChange(event.target.value)}
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
        {field.kind === "switch" && <Switch id={id} checked={Boolean(value)} onChange={onChange} />}
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
          <Input.TextArea
            {...common}
            className="mono"
            autoSize={{ minRows: 6, maxRows: 16 }}
            spellCheck={false}
            value={String(value ?? "")}
            onChange={(event) => onChange(event.target.value)}
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
