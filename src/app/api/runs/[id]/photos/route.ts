import { Side, sides } from "@/core/reading/photo";
import { photos } from "@/server/db/photos";
import { readBytes } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { Refused } from "@/server/refused";
import { addPhoto, MOST_PHOTO_BYTES } from "@/server/work/photos";
import { runOf } from "@/server/work/runs";

/** Photos of a piece, without their bytes. */
export const GET = handle((_, params) => json(photos.ofRun(runOf(pathId(params, "run")).id)), { who: "reader" });

/** A photo of one side of the piece; the body is the picture. */
export const POST = handle(
  async (request, params) => {
    const run = runOf(pathId(params, "run"));
    const side = new URL(request.url).searchParams.get("side") ?? "front";
    if (!(sides as readonly string[]).includes(side)) {
      throw new Refused("invalid", `A photo shows the ${sides.join(" or the ")} of the piece.`, { field: "side" });
    }
    const bytes = await readBytes(request, MOST_PHOTO_BYTES, "A photo");
    return json(await addPhoto(run, side as Side, bytes), 201);
  },
  { who: "marker" },
);
