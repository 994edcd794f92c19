/** The handlers printers and spools share: list, add, read, change, remove, restore. */
import { z } from "zod";
import { refuseStale } from "../db/rows";
import { ShelfTable, Stored } from "../db/shelf-table";
import { checked, isRecord, readBody, readChange } from "./body";
import { handle, json, pathId } from "./respond";
import { missing } from "../refused";

/** What must be so before a record is changed or removed: throws what refuses it. */
interface Guard<T> {
  change?(before: Stored<T>, after: T): void;
  remove?(record: Stored<T>): void;
  /** What follows of a change within the record itself. */
  mend?(before: Stored<T>, after: T): T;
  /** How a new record is checked, where more is filled in than for one that is changed. */
  added?: z.ZodType<T>;
  /** What follows a change. */
  changed?(record: Stored<T>): void;
}

/** Handlers for a table whose records are called `what` and checked by `schema`. */
export function shelfRoutes<T>(table: ShelfTable<T>, schema: z.ZodType<T>, what: string, guard: Guard<T> = {}) {
  const found = <R>(record: R | null, id: number): R => {
    if (record === null) throw missing(`There is no ${what} ${id}.`);
    return record;
  };
  return {
    collection: {
      GET: handle(() => json(table.list()), { who: "reader" }),
      POST: handle(async (request) => json(table.add(await readBody(request, guard.added ?? schema)), 201), {
        who: "bench",
      }),
    },
    item: {
      GET: handle(
        (_, params) => {
          const id = pathId(params, what);
          return json(found(table.get(id), id));
        },
        { who: "reader" },
      ),
      PUT: handle(
        async (request, params) => {
          const id = pathId(params, what);
          // The body first: what stands in the record is looked at when nothing can come in between any more.
          const { body, seen } = await readChange(request);
          const before = found(table.get(id), id);
          const after = checked(isRecord(body) ? { ...before, ...body } : body, schema);
          refuseStale(what, before, seen);
          guard.change?.(before, after);
          const changed = found(table.change(id, after, seen), id);
          guard.changed?.(changed);
          return json(changed);
        },
        { who: "bench" },
      ),
      DELETE: handle(
        (_, params) => {
          const id = pathId(params, what);
          guard.remove?.(found(table.get(id), id));
          if (!table.remove(id)) throw missing(`There is no ${what} ${id}.`);
          return json({ id });
        },
        { who: "bench" },
      ),
    },
    restore: {
      POST: handle(
        (_, params) => {
          const id = pathId(params, what);
          return json(found(table.restore(id), id));
        },
        { who: "bench" },
      ),
    },
  };
}
