import { files } from "@/server/db/files";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const POST = handle(
  (_, params) => {
    const id = pathId(params, "file");
    const file = files.restore(id);
    if (!file) throw missing(`There is no file ${id}.`);
    return json(file);
  },
  { who: "bench" },
);
