/** A sheet as the server keeps it. */
import type { Sheet } from "@/core/sheets/sheet";

export type KeptSheet = Sheet & { id: number; revision: number; createdAt?: string; updatedAt?: string };

/** The sheet alone, without what the server adds to it. */
export function sheetOf({ id: _i, revision: _r, createdAt: _c, updatedAt: _u, ...sheet }: KeptSheet): Sheet {
  return sheet;
}
