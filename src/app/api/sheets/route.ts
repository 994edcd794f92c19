import { sheets } from "@/server/db/sheets";
import { handle, json } from "@/server/http/respond";
import { readSheet } from "@/server/http/sheets";

export const GET = handle(() => json(sheets.list()), { who: "reader" });

export const POST = handle(async (request) => json(sheets.add((await readSheet(request)).sheet), 201), {
  who: "bench",
});
