import { z } from "zod";
import { files, StoredFile } from "@/server/db/files";
import { checked, readChange } from "@/server/http/body";
import { fileOf } from "@/server/http/files";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";
import { changePrinter } from "@/server/work/files";

const shown = (file: StoredFile) => json({ ...file, edits: JSON.parse(file.edits) as unknown });

export const GET = handle((_, params) => shown(fileOf(params)), { who: "reader" });

const changed = z.object({ printerId: z.int({ error: "Say which printer the file is for, by its id" }) });

export const PUT = handle(
  async (request, params) => {
    const { body, seen } = await readChange(request);
    const { printerId } = checked(body, changed);
    return shown(await changePrinter(fileOf(params), printerId, request.signal, seen));
  },
  { who: "bench" },
);

export const DELETE = handle(
  (_, params) => {
    const id = pathId(params, "file");
    if (!files.remove(id)) throw missing(`There is no file ${id}.`);
    return json({ id });
  },
  { who: "bench" },
);
