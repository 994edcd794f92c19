import { fileOf } from "@/server/http/files";
import { handle, json } from "@/server/http/respond";
import { isEditedAsked, windowOf } from "@/server/http/window";
import { windowOfLines } from "@/server/work/windows";

const MOST_LINES = 2000;

/** A window of the file's lines: ?from=0&count=200&edited=1 → `{from, lines, changes}`, counted from 0. */
export const GET = handle(
  (request, params) => {
    const { from, count } = windowOf(request, MOST_LINES);
    return json({ from, ...windowOfLines(fileOf(params), isEditedAsked(request), from, count) });
  },
  { who: "reader" },
);
