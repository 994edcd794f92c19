import { printerBody } from "@/server/http/link";
import { readBody } from "@/server/http/body";
import { handle, json } from "@/server/http/respond";
import { findStrays } from "@/server/link/firmware";

/** What is in force and would be saved without anybody having meant it, with where it comes from. */
export const POST = handle(
  async (request) => json(await findStrays((await readBody(request, printerBody)).printerId)),
  { who: "actor" },
);
