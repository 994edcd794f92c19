import { snippets } from "@/server/db/snippets";
import { handle, json, notFound, pathId } from "@/server/http/respond";

export const DELETE = handle((_, params) => {
  const id = pathId(params, "snippet");
  if (!snippets.remove(id)) throw notFound(`There is no snippet ${id}.`);
  return json({});
});
