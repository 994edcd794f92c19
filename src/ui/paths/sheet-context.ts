"use client";
/** What all rows of an outline share: the sheet, what is wrong in it, what is lit, and how it is changed. */
import { createContext, useContext } from "react";
import type { RowPath } from "@/core/sheets/rows";
import type { Item, Sheet } from "@/core/sheets/sheet";

export interface Wrong {
  field: string;
  message: string;
}

export interface OutlineState {
  sheet: Sheet;
  wrong: Wrong | null;
  /** Field of the row that is lit in all views. */
  lit: string | null;
  /** Field of the row whose fields are open. */
  open: string | null;
  isFolded(item: Item): boolean;
  onLit(field: string | null): void;
  onOpen(field: string | null): void;
  onFold(item: Item, isFolded: boolean): void;
  /** Another row in the place of one. */
  onPut(path: RowPath, row: Item, gesture?: string): void;
  /** Rows in another order; the row that is spoken of stands at `path` now. */
  onRows(items: Item[], path?: RowPath): void;
  /** A new row in the place of one, opened. */
  onNew(path: RowPath, row: Item): void;
}

export const OutlineContext = createContext<OutlineState | null>(null);

export function useOutline(): OutlineState {
  const state = useContext(OutlineContext);
  if (!state) throw new Error("A row stands in an outline");
  return state;
}
