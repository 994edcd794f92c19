"use client";
/** What is laid, in its order, from outside to inside: rows that are opened, dragged, folded, and moved by keys. */
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { fieldOf, insertRow, replaceRow, rowAt, RowPath } from "@/core/sheets/rows";
import type { Item, Sheet } from "@/core/sheets/sheet";
import { NewRow } from "./new-row";
import { Row } from "./outline-row";
import { OutlineContext, OutlineState, Wrong } from "./sheet-context";
import styles from "./outline.module.css";

interface Props {
  sheet: Sheet;
  wrong: Wrong | null;
  lit: string | null;
  onLit(field: string | null): void;
  onChange(items: Item[], gesture?: string): void;
}

export function Outline({ sheet, wrong, lit, onLit, onChange }: Props) {
  const { items } = sheet;
  const list = useRef<HTMLOListElement>(null);
  const [open, onOpen] = useState<string | null>(null);
  const [folded, setFolded] = useState<ReadonlySet<Item>>(new Set());
  const [focused, setFocused] = useState<string | null>(null);
  // A row that was moved keeps the keyboard.
  useEffect(() => {
    if (focused === null) return;
    list.current?.querySelector<HTMLElement>(`[data-row="${focused}"]`)?.focus();
    setFocused(null);
  }, [focused]);

  const onPut = useCallback(
    (path: RowPath, row: Item, gesture?: string) => {
      const next = replaceRow(items, path, row);
      // A row and all around it are other objects now; what is folded stays so.
      setFolded((now) => {
        const kept = new Set(now);
        for (let depth = 1; depth <= path.length; depth++) {
          const [before, after] = [rowAt(items, path.slice(0, depth)), rowAt(next, path.slice(0, depth))];
          if (before && after && kept.has(before)) kept.add(after);
        }
        return kept;
      });
      onChange(next, gesture);
    },
    [items, onChange],
  );
  const state = useMemo<OutlineState>(
    () => ({
      sheet,
      wrong,
      lit,
      open,
      onLit,
      onOpen,
      onPut,
      isFolded: (item) => folded.has(item),
      onFold: (item, isFolded) =>
        setFolded((now) => {
          const next = new Set(now);
          if (isFolded) next.add(item);
          else next.delete(item);
          return next;
        }),
      onRows(next, path) {
        onChange(next);
        if (open !== null) onOpen(path ? fieldOf(path) : null);
        if (path) setFocused(fieldOf(path));
      },
      onNew(path, row) {
        onChange(insertRow(items, path, row));
        onOpen(fieldOf(path));
        setFocused(fieldOf(path));
      },
    }),
    [sheet, items, wrong, lit, open, onLit, onPut, folded, onChange],
  );
  return (
    <OutlineContext value={state}>
      <ol ref={list} className={styles.outline} aria-label="Laid, in this order">
        {items.map((item, i) => (
          <Row key={i} item={item} path={[i]} />
        ))}
        <li>
          <NewRow label="Lay something more" onNew={(row) => state.onNew([items.length], row)} />
        </li>
      </ol>
    </OutlineContext>
  );
}
