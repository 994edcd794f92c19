import { files } from "@/server/db/files";
import { fileOf } from "@/server/http/files";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const GET = handle(
  (_, params) => {
    const file = fileOf(params);
    return json({ ...file, edits: JSON.parse(file.edits) as unknown });
  },
  { who: "reader" },
);

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "file");
    if (!files.remove(id)) throw missing(`There is no file ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
