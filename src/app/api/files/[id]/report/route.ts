import { files } from "@/server/db/files";
import { fileOf } from "@/server/http/files";
import { handle } from "@/server/http/respond";

// The report was written as JSON when the file was read; it goes out as it is.
export const GET = handle((_, params) => {
  const report = files.report(fileOf(params).id);
  return new Response(report, { headers: { "Content-Type": "application/json", "Cache-Control": "no-store" } });
});
