import { files } from "@/server/db/files";
import { handle, json, notFound, pathId } from "@/server/http/respond";

export const POST = handle((_, params) => {
  const id = pathId(params, "file");
  const file = files.restore(id);
  if (!file) throw notFound(`There is no file ${id}.`);
  return json(file);
});
