import { photos } from "@/server/db/photos";
import { handle, json, pathId } from "@/server/http/respond";
import { missing } from "@/server/refused";

export const POST = handle(
  (_, params) => {
    const photo = photos.restore(pathId(params, "photo", "photo"));
    if (!photo) throw missing("There is no such photo.");
    return json(photo);
  },
  { who: "marker" },
);
