import { kept } from "@/server/db/kept";
import { handle, json, notFound, pathId } from "@/server/http/respond";

export const DELETE = handle((_, params) => {
  const id = pathId(params, "kept value");
  if (!kept.remove(id)) throw notFound(`There is no kept value ${id}.`);
  return json({ id });
});
