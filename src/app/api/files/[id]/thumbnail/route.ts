import { fileOf } from "@/server/http/files";
import { handle, jsonText } from "@/server/http/respond";
import { thumbnailOfFile } from "@/server/work/thumbnails";

/** The small picture of the file's piece, as it came. */
export const GET = handle(async (_, params) => jsonText(await thumbnailOfFile(fileOf(params))), { who: "reader" });
