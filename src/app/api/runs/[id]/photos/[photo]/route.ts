import { photoPlaceSchema } from "@/core/reading/photo-schema";
import { photos } from "@/server/db/photos";
import { readBody } from "@/server/http/body";
import { handle, json, pathId } from "@/server/http/respond";
import { photoOf } from "@/server/work/photos";
import { runOf } from "@/server/work/runs";

const ofPath = (params: Record<string, string>) =>
  photoOf(runOf(pathId(params, "run")), pathId(params, "photo", "photo"));

/** The picture itself. It never changes. */
export const GET = handle(
  (_, params) => {
    const { bytes, type } = photos.bytes(ofPath(params).id)!;
    return new Response(new Uint8Array(bytes), {
      headers: { "Content-Type": type, "Cache-Control": "private, max-age=31536000, immutable" },
    });
  },
  { who: "reader" },
);

/** Where the bottom and the top edge of the piece lie on it. */
export const PUT = handle(
  async (request, params) => {
    const { id } = ofPath(params);
    return json(photos.place(id, await readBody(request, photoPlaceSchema)));
  },
  { who: "marker" },
);

export const DELETE = handle(
  (_, params) => {
    const { id } = ofPath(params);
    photos.remove(id);
    return json({ id });
  },
  { who: "marker" },
);
