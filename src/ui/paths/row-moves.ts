"use client";
/** What can be done with a row as a whole, by keys and by buttons alike; the keyboard goes along with it. */
import {
  allRows,
  insertRow,
  nestRow,
  removeRow,
  rowAt,
  RowPath,
  shiftRow,
  swapWithParent,
  unnestRow,
} from "@/core/sheets/rows";
import type { Item } from "@/core/sheets/sheet";
import { useOutline } from "./sheet-context";

export interface RowMoves {
  earlier(): void;
  later(): void;
  out(): void;
  into(): void;
  outside(): void;
  again(): void;
  remove(): void;
  /** Off, and on again. */
  toggle(): void;
}

export function useRowMoves(item: Item, path: RowPath): RowMoves {
  const { sheet, onPut, onRows } = useOutline();
  const { items } = sheet;
  const parent = path.slice(0, -1);
  const moved = (next: Item[]) => {
    const to = allRows(next).find((one) => rowAt(next, one) === item);
    if (to) onRows(next, to);
  };
  return {
    earlier: () => moved(shiftRow(items, path, -1)),
    later: () => moved(shiftRow(items, path, 1)),
    out: () => moved(unnestRow(items, path)),
    into: () => moved(nestRow(items, path)),
    outside: () => onRows(swapWithParent(items, path), parent),
    again: () => onRows(insertRow(items, path, item), [...parent, path[path.length - 1] + 1]),
    remove: () => onRows(removeRow(items, path), nextAfter(items, path)),
    toggle() {
      const { off, ...rest } = item;
      onPut(path, (off ? rest : { ...item, off: true }) as Item);
    },
  };
}

/** Where the keyboard goes when a row is taken away: what stands in its place, or before it, or around it. */
function nextAfter(items: readonly Item[], path: RowPath): RowPath | undefined {
  const [parent, index] = [path.slice(0, -1), path[path.length - 1]];
  if (rowAt(items, [...parent, index + 1])) return path;
  if (index > 0) return [...parent, index - 1];
  return parent.length > 0 ? parent : undefined;
}
