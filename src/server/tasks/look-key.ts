/** What tells one look at a file from another: the file and its version, what is laid over it, and how its printer reads. */
import { createHash } from "node:crypto";
import { readingOf } from "@/core/machine/reading";
import type { Printer } from "@/core/shelf/printer";

export function lookKey(
  { fileId, version, resultId }: { fileId: number; version: number; resultId: number | null },
  printer: Printer,
): string {
  const reading = createHash("sha256")
    .update(JSON.stringify(readingOf(printer)))
    .digest("base64url");
  return `file ${fileId} ${version} ${resultId ?? "as it came"} ${reading}`;
}
