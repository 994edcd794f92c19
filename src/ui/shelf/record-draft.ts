"use client";
/** A record of the shelf while it is typed: what stands in its fields, what it reads as, and what is wrong with it. */
import { useState } from "react";
import type { z } from "zod";
import type { FieldGroup } from "./fields";

export type Draft = Record<string, unknown>;

export interface RecordDraft<T> {
  draft: Draft;
  /** The draft with its numbers read; what cannot be read stays text. */
  read: Draft;
  /** The record, if it is whole and right; if not, null, and from now on everything that is wrong or missing is said. */
  record(): Promise<T | null>;
  /** What is wrong, by field. Of a field that nobody has touched and that holds nothing yet, nothing is said before it is asked for. */
  problems: Map<string, string>;
  set(part: Draft): void;
  refuse(field: string | undefined, message: string): void;
}

/** Numbers are kept as they were typed until they are read: nothing typed is lost. */
function asTyped<T>(initial: Draft, groups: FieldGroup<T>[]): Draft {
  const numbers = new Set<string>(
    groups.flatMap(({ fields }) => fields.filter(({ kind }) => kind === "number").map(({ name }) => name)),
  );
  return Object.fromEntries(
    Object.entries(initial).map(([name, value]) => [name, numbers.has(name) ? String(value ?? "") : value]),
  );
}

function asRead<T>(draft: Draft, groups: FieldGroup<T>[]): Draft {
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

interface Options<T> {
  groups: FieldGroup<T>[];
  /** What a record may be; fetched when something is typed or asked for: a page that is only looked at does without. */
  schema(): Promise<z.ZodType<T>>;
  initial: Draft;
  /** What follows when a field changes, like a material's usual figures. */
  onField?(draft: Draft, name: string): Draft;
}

export function useRecordDraft<T>({ groups, schema: fetchSchema, initial, onField }: Options<T>): RecordDraft<T> {
  const [draft, setDraft] = useState(() => asTyped(initial, groups));
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const [refused, setRefused] = useState<{ field?: string; message: string } | null>(null);
  const read = asRead(draft, groups);
  const [schema, setSchema] = useState<z.ZodType<T> | null>(null);
  const [askedFor, setAskedFor] = useState(false);
  const fetched = async () => {
    const found = schema ?? (await fetchSchema());
    // A schema is an object that may be called; React would take a function for a way to make the next state.
    setSchema(() => found);
    return found;
  };
  const parsed = schema?.safeParse(read);
  const problems = new Map<string, string>();
  for (const { path, message } of parsed?.error?.issues ?? []) {
    const name = String(path[0]);
    if (askedFor || touched.has(name) || String(draft[name] ?? "") !== "") problems.set(name, message);
  }
  if (refused?.field) problems.set(refused.field, refused.message);
  return {
    draft,
    read,
    async record() {
      const { data } = (await fetched()).safeParse(read);
      setAskedFor(data === undefined);
      return data ?? null;
    },
    problems,
    set(part) {
      void fetched();
      setRefused(null);
      setTouched(new Set([...touched, ...Object.keys(part)]));
      setDraft((now) =>
        Object.keys(part).reduce(
          (next, name) => (onField ? asTyped(onField(next, name), groups) : next),
          asTyped({ ...now, ...part }, groups),
        ),
      );
    },
    refuse: (field, message) => setRefused({ field, message }),
  };
}
