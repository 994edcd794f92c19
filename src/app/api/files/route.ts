import { listedFiles } from "@/server/work/pages";
import { mendName } from "@/core/shelf/name";
import { receiveFile } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { Refused } from "@/server/refused";

export const GET = handle(() => json(listedFiles()), { who: "reader" });

export const POST = handle(
  async (request) => {
    const asked = new URL(request.url).searchParams.get("name")?.slice(0, 200);
    const name = String(mendName(asked ?? "")).trim();
    if (!name)
      throw new Refused("invalid", "Give the file a name: POST /api/files?name=tower.gcode", { field: "name" });
    return json({ id: await receiveFile(request, name) }, 201);
  },
  { who: "bench" },
);
