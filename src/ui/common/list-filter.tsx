"use client";
/** Search and filters above a list: what is typed is looked for in every row's words, what is chosen must fit. */
import { useMemo, useState } from "react";
import { Choice } from "./choice";
import { TextField } from "./text-field";
import styles from "./list-filter.module.css";

export interface FilterChoice<T> {
  label: string;
  /** The row's value, by which it is chosen. */
  of(row: T): string | number | null;
  options: { value: string | number; label: string }[];
}

/** Fewer rows than this are seen at a glance. */
const WORTH_FILTERING = 6;

/** The rows that fit, and the fields to choose them by; no fields while the list is short. */
export function useListFilter<T>(rows: readonly T[], words: (row: T) => string, choices: FilterChoice<T>[]) {
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState<Record<string, string | number | undefined>>({});
  const searchable = useMemo(() => rows.map((row) => words(row).toLowerCase()), [rows, words]);
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter(
    (row, index) =>
      wanted.every((word) => searchable[index].includes(word)) &&
      choices.every(({ label, of }) => chosen[label] === undefined || of(row) === chosen[label]),
  );
  const isNarrowed = found.length !== rows.length;
  const fields =
    rows.length < WORTH_FILTERING ? null : (
      <div className={styles.filter} role="search">
        <TextField
          type="search"
          className={styles.search}
          aria-label="Search this list"
          placeholder="Search"
          value={text}
          onChange={setText}
        />
        {choices.map(({ label, options }) => (
          <Choice
            key={label}
            label={label}
            className={styles.choice}
            hint={label}
            onClear={() => setChosen({ ...chosen, [label]: undefined })}
            value={chosen[label]}
            options={options}
            onChange={(value) => setChosen({ ...chosen, [label]: value })}
          />
        ))}
        <span className="dim" role="status">
          {isNarrowed ? `${found.length} of ${rows.length}` : `${rows.length} in all`}
        </span>
      </div>
    );
  return { found, fields };
}
