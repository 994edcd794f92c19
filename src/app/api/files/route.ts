import { listedFiles } from "@/server/work/pages";
import { receiveFile } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { Refused } from "@/server/refused";

export const GET = handle(() => json(listedFiles()), { who: "reader" });

export const POST = handle(
  async (request) => {
    const name = new URL(request.url).searchParams.get("name")?.trim().slice(0, 200);
    if (!name)
      throw new Refused("invalid", "Give the file a name: POST /api/files?name=tower.gcode", { field: "name" });
    return json({ id: await receiveFile(request, name) }, 201);
  },
  { who: "bench" },
);
