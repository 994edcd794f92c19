import { handle, json } from "@/server/http/respond";
import { trialOf } from "@/server/http/trials";
import { chainOf } from "@/server/work/chain";

/** The rounds of the question a trial belongs to, the first one first. */
export const GET = handle(async (_, params) => json(await chainOf(trialOf(params))), { who: "reader" });
