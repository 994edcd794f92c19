/** The handlers printers and spools share: list, add, read, change, remove, restore. */
import { z } from "zod";
import { ShelfTable } from "../db/shelf-table";
import { handle, json, notFound, pathId, readBody } from "./respond";

/** Handlers for a table whose records are called `what` and checked by `schema`. */
export function shelfRoutes<T>(table: ShelfTable<T>, schema: z.ZodType<T>, what: string) {
  const found = <R>(record: R | null, id: number): R => {
    if (record === null) throw notFound(`There is no ${what} ${id}.`);
    return record;
  };
  return {
    collection: {
      GET: handle(() => json(table.list())),
      POST: handle(async (request) => json(table.add(await readBody(request, schema)), 201)),
    },
    item: {
      GET: handle((_, params) => {
        const id = pathId(params, what);
        return json(found(table.get(id), id));
      }),
      PUT: handle(async (request, params) => {
        const id = pathId(params, what);
        found(table.get(id), id);
        return json(found(table.change(id, await readBody(request, schema)), id));
      }),
      DELETE: handle((_, params) => {
        const id = pathId(params, what);
        if (!table.remove(id)) throw notFound(`There is no ${what} ${id}.`);
        return json({ id });
      }),
    },
    restore: {
      POST: handle((_, params) => {
        const id = pathId(params, what);
        return json(found(table.restore(id), id));
      }),
    },
  };
}
