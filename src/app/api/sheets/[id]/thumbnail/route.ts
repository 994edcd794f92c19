import { handle, jsonText, pathId } from "@/server/http/respond";
import { inputOf } from "@/server/http/sheets";
import { thumbnailOfSheet } from "@/server/work/thumbnails";

/** The small picture of a sheet, as it would be laid. */
export const GET = handle(
  async (request, params) => jsonText(await thumbnailOfSheet(pathId(params, "sheet"), inputOf(request, params))),
  { who: "reader" },
);
