"use client";
/** A form for one record of the shelf: every field with its unit, checked as it is typed by the same rules the server uses. */
import { Button, Input, Select, Switch } from "antd";
import { useRouter } from "next/navigation";
import { useId, useState } from "react";
import { z } from "zod";
import { ApiError } from "../common/api";

import type { Field, FieldGroup } from "./fields";
import { useTell } from "../common/talk";

type Draft = Record<string, unknown>;

interface Props<T> {
  title: string;
  groups: FieldGroup<T>[];
  schema: z.ZodType<T>;
  initial: Draft;
  saveText: string;
  back: string;
  onSave(record: T): Promise<void>;
  /** What follows when a field changes, like a material's usual figures. */
  onField?(draft: Draft, name: string): Draft;
}

/** Numbers are kept as they were typed until they are read: nothing typed is lost. */
function asTyped(initial: Draft, groups: FieldGroup<never>[]): Draft {
  const numbers = new Set(
    groups.flatMap(({ fields }) => fields.filter(({ kind }) => kind === "number").map(({ name }) => name as string)),
  );
  return Object.fromEntries(
    Object.entries(initial).map(([name, value]) => [name, numbers.has(name) ? String(value ?? "") : value]),
  );
}

function asRead(draft: Draft, groups: FieldGroup<never>[]): Draft {
  const read = { ...draft };
  for (const { fields } of groups) {
    for (const { name, kind } of fields) {
      if (kind !== "number") continue;
      const text = String(draft[name] ?? "")
        .trim()
        .replace(",", ".");
      read[name] = text === "" ? undefined : /^[+-]?(\d+\.?\d*|\.\d+)$/.test(text) ? Number(text) : text;
    }
  }
  return read;
}

export function RecordForm<T>({ title, groups, schema, initial, saveText, back, onSave, onField }: Props<T>) {
  const anyGroups = groups as unknown as FieldGroup<never>[];
  const [draft, setDraft] = useState(() => asTyped(initial, anyGroups));
  const [refused, setRefused] = useState<{ field?: string; message: string } | null>(null);
  const [saving, setSaving] = useState(false);
  const router = useRouter();
  const tell = useTell();
  const parsed = schema.safeParse(asRead(draft, anyGroups));
  const problems = new Map<string, string>();
  if (!parsed.success) for (const { path, message } of parsed.error.issues) problems.set(String(path[0]), message);
  if (refused?.field) problems.set(refused.field, refused.message);
  const set = (name: string, value: unknown) => {
    setRefused(null);
    const next = { ...draft, [name]: value };
    setDraft(onField ? asTyped(onField(next, name), anyGroups) : next);
  };
  const save = async () => {
    if (!parsed.success) return;
    setSaving(true);
    try {
      await onSave(parsed.data);
      router.push(back);
    } catch (error) {
      if (error instanceof ApiError) setRefused({ field: error.field, message: error.message });
      tell.error(error);
      setSaving(false);
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="page-head" style={{ marginBottom: 14 }}>
        <h1>{title}</h1>
        <span style={{ display: "flex", gap: 10 }}>
          <Button onClick={() => router.push(back)}>Back without saving</Button>
          <Button className="go" htmlType="submit" loading={saving} disabled={!parsed.success}>
            {saveText}
          </Button>
        </span>
      </div>
      <div style={{ display: "grid", gap: 14 }}>
        {groups.map(({ title: groupTitle, fields }) => (
          <section key={groupTitle} className="card" aria-label={groupTitle}>
            <h2>{groupTitle}</h2>
            <div
              style={{
                display: "grid",
                gap: "14px 20px",
                gridTemplateColumns: "repeat(auto-fill, minmax(210px, 1fr))",
              }}
            >
              {fields
                .filter(({ when }) => !when || when(asRead(draft, anyGroups) as T))
                .map((field) => (
                  <FieldInput
                    key={field.name}
                    field={field}
                    value={draft[field.name]}
                    problem={problems.get(field.name)}
                    onChange={(value) => set(field.name, value)}
                  />
                ))}
            </div>
          </section>
        ))}
      </div>
    </form>
  );
}

function FieldInput<T>({
  field,
  value,
  problem,
  onChange,
}: {
  field: Field<T>;
  value: unknown;
  problem?: string;
  onChange(value: unknown): void;
}) {
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
    <div style={field.kind === "lines" ? { gridColumn: "1 / -1" } : undefined}>
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
          <Select
            id={id}
            aria-describedby={described}
            style={{ width: "100%" }}
            value={value as string}
            options={field.options}
            onChange={onChange}
            popupMatchSelectWidth={false}
          />
        )}
        {field.kind === "switch" && <Switch id={id} checked={Boolean(value)} onChange={onChange} />}
        {field.kind === "colour" && (
          <input
            id={id}
            type="color"
            value={String(value)}
            onChange={(event) => onChange(event.target.value)}
            style={{
              width: 64,
              height: 34,
              border: "1px solid var(--line-strong)",
              borderRadius: 8,
              background: "var(--raised)",
              padding: 3,
            }}
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
        <div id={`${id}-help`} className="dim" style={{ fontSize: 12, marginTop: 2 }}>
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
