import { handle, json } from "@/server/http/respond";
import { examplesWithPictures } from "@/server/work/thumbnails";

/** The sheets that ship, each with its small picture as it would be laid for the pair on the bench. */
export const GET = handle(async () => json(await examplesWithPictures()), { who: "reader" });
