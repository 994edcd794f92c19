"use client";
/** One row of the outline, and the rows in it. */
import { DragEvent, KeyboardEvent, useState } from "react";
import { allRows, DropPlace, dropRow, fieldOf, rowAt, RowPath, sayRow } from "@/core/sheets/rows";
import type { Item } from "@/core/sheets/sheet";
import { Toggle } from "../common/toggle";
import { NewRow } from "./new-row";
import styles from "./outline.module.css";
import { RowEditor } from "./row-editor";
import { rowSays, rowTitle } from "./row-kinds";
import { RowMoves, useRowMoves } from "./row-moves";
import { useOutline } from "./sheet-context";

/** The path that is dragged: a browser tells nobody what it is while it hovers. */
let dragged: RowPath | null = null;

export function Row({ item, path }: { item: Item; path: RowPath }) {
  const state = useOutline();
  const { wrong, lit, open, onLit, onOpen, onNew, isFolded, onFold } = state;
  const field = fieldOf(path);
  const name = sayRow(path);
  const isOpen = open === field;
  const own = wrong !== null && ownsField(field, wrong.field);
  const inner = "items" in item ? item.items : null;
  const folded = inner !== null && isFolded(item);
  const moves = useRowMoves(item, path);
  const press = useRowKeys(item, path, moves);
  const { drop, ...dragging } = useDrop(path, inner !== null);
  return (
    <li>
      <div
        className={styles.row}
        role="group"
        aria-label={`${name}: ${rowTitle(item)}`}
        data-off={item.off || undefined}
        data-lit={lit === field || undefined}
        data-open={isOpen || undefined}
        data-kind={item.kind === "repeat" || item.kind === "group" ? "around" : "laid"}
        data-wrong={own || undefined}
        data-drop={drop ?? undefined}
        onPointerEnter={() => onLit(field)}
        onPointerLeave={() => onLit(null)}
        onFocus={() => onLit(field)}
        {...dragging}
      >
        <div
          className={styles.line}
          draggable={!isOpen}
          onDragStart={(event) => {
            dragged = path;
            event.dataTransfer.effectAllowed = "move";
            event.dataTransfer.setData("text/plain", name);
          }}
          onDragEnd={() => (dragged = null)}
        >
          {inner !== null && (
            <button
              className={styles.fold}
              aria-label={`${folded ? "Unfold" : "Fold"} ${name}`}
              aria-expanded={!folded}
              tabIndex={-1}
              onClick={() => onFold(item, !folded)}
            >
              {folded ? "▸" : "▾"}
            </button>
          )}
          <button
            className={styles.says}
            data-row={field}
            aria-expanded={isOpen}
            aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown Alt+ArrowLeft Alt+ArrowRight Delete"
            onClick={() => onOpen(isOpen ? null : field)}
            onKeyDown={press}
          >
            <b>{rowTitle(item)}</b> <span>{rowSays(item)}</span>
          </button>
          <Toggle checked={!item.off} label={`Lay ${name}`} onChange={moves.toggle} />
        </div>
        {own && !isOpen && <p className="field-error">{wrong.message}</p>}
        {isOpen && <RowEditor item={item} path={path} />}
      </div>
      {inner !== null && !folded && (
        <ol className={styles.inner}>
          {inner.map((one, i) => (
            <Row key={i} item={one} path={[...path, i]} />
          ))}
          {(isOpen || inner.length === 0) && (
            <li>
              <NewRow label={`Lay more in ${name}`} onNew={(row) => onNew([...path, inner.length], row)} />
            </li>
          )}
        </ol>
      )}
    </li>
  );
}

/** Whether a field is one of a row's own, not of a row within it. */
function ownsField(row: string, field: string): boolean {
  return field === row || (field.startsWith(`${row}.`) && !/^\.items\.\d/.test(field.slice(row.length)));
}

/** Up and down from row to row; with Alt the row itself goes. */
function useRowKeys(item: Item, path: RowPath, moves: RowMoves) {
  const { onFold, isFolded } = useOutline();
  return (event: KeyboardEvent) => {
    const { key, altKey, currentTarget } = event;
    if (event.ctrlKey || event.metaKey) return;
    const acts: Record<string, () => void> = altKey
      ? { ArrowUp: moves.earlier, ArrowDown: moves.later, ArrowLeft: moves.out, ArrowRight: moves.into }
      : {
          ArrowUp: () => neighbour(currentTarget, -1)?.focus(),
          ArrowDown: () => neighbour(currentTarget, 1)?.focus(),
          ArrowLeft: () => {
            if ("items" in item && !isFolded(item)) onFold(item, true);
            else if (path.length > 1) rowButton(currentTarget, path.slice(0, -1))?.focus();
          },
          ArrowRight: () => "items" in item && onFold(item, false),
          Delete: moves.remove,
          d: moves.again,
          o: moves.toggle,
        };
    const act = acts[key];
    if (!act) return;
    event.preventDefault();
    act();
  };
}

const rowButtons = (from: Element): HTMLElement[] => [
  ...(from.closest(`.${styles.outline}`)?.querySelectorAll<HTMLElement>("[data-row]") ?? []),
];

function neighbour(from: Element, step: 1 | -1): HTMLElement | null {
  const all = rowButtons(from);
  return all[all.indexOf(from as HTMLElement) + step] ?? null;
}

const rowButton = (from: Element, path: RowPath): HTMLElement | null =>
  rowButtons(from).find(({ dataset }) => dataset.row === fieldOf(path)) ?? null;

/** A row as a place to drop another one: on its upper part before it, on its lower behind it, in its middle into it. */
function useDrop(path: RowPath, isAround: boolean) {
  const { sheet, onRows } = useOutline();
  const [drop, setDrop] = useState<DropPlace | null>(null);
  const placeOf = (event: DragEvent): DropPlace => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    const share = (event.clientY - top) / height;
    if (isAround && share > 0.3 && share < 0.75) return "into";
    return share < 0.5 ? "before" : "after";
  };
  return {
    drop,
    onDragOver(event: DragEvent) {
      if (!dragged) return;
      event.preventDefault();
      setDrop(placeOf(event));
    },
    onDragLeave: () => setDrop(null),
    onDrop(event: DragEvent) {
      event.preventDefault();
      setDrop(null);
      if (!dragged) return;
      const row = rowAt(sheet.items, dragged);
      const next = dropRow(sheet.items, dragged, path, placeOf(event));
      dragged = null;
      onRows(
        next,
        allRows(next).find((one) => rowAt(next, one) === row),
      );
    },
  };
}
