import { handle, jsonText } from "@/server/http/respond";
import { trialOf } from "@/server/http/trials";
import { thumbnailOfTrial } from "@/server/work/thumbnails";

/** The small picture of the trial's piece. */
export const GET = handle(async (_, params) => jsonText(await thumbnailOfTrial(trialOf(params))), { who: "reader" });
