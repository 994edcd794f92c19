import { fileOf } from "@/server/http/files";
import { reportFor } from "@/server/work/files";
import { handle } from "@/server/http/respond";

// The report was written as JSON when the file was read; it goes out as it is.
export const GET = handle(
  async (request, params) => {
    const report = await reportFor(fileOf(params), request.signal);
    return new Response(report, { headers: { "Content-Type": "application/json", "Cache-Control": "no-store" } });
  },
  { who: "reader" },
);
