import { fileOf } from "@/server/http/files";
import { reportFor } from "@/server/work/files";
import { handle, jsonText } from "@/server/http/respond";

// The report was written as JSON when the file was read; it goes out as it is.
export const GET = handle(async (request, params) => jsonText(await reportFor(fileOf(params), request.signal)), {
  who: "reader",
});
