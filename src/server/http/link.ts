/** What the link routes share: who is meant, and what may be said. */
import { z } from "zod";
import { plainId } from "./respond";
import { printers, SavedPrinter } from "../db/printers";
import { Refused, missing } from "../refused";

export const printerIdSchema = z
  .int({ error: "printerId is a whole number" })
  .positive("printerId is a whole number above 0");

export const printerBody = z.object({ printerId: printerIdSchema });

/** A line as it is typed: one line, nothing a line cannot hold. */
export const lineSchema = z
  .string({ error: "A line is text" })
  .max(500, "A line has at most 500 characters")
  // eslint-disable-next-line no-control-regex -- exactly those end or spoil a line
  .regex(/^[^\x00-\x08\x0a-\x1f]*$/, "A line must not hold line breaks or control characters");

export const linesBody = printerBody.extend({
  lines: z
    .array(lineSchema, { error: "Give a list of lines" })
    .min(1, "Give at least one line")
    .max(2000, "At most 2000 lines at once"),
  /** Which view asks. */
  source: z
    .enum(["console", "heat", "measure"], { error: "The source is console, heat or measure" })
    .default("console"),
});

/** The printer named in the query; a 400 or 404 with a sentence. */
export function printerOfQuery(request: Request): SavedPrinter {
  const asked = plainId(new URL(request.url).searchParams.get("printerId") ?? "");
  if (asked === null) throw new Refused("invalid", "Say which printer, like ?printerId=1.", { field: "printerId" });
  const printer = printers.get(asked);
  if (!printer) throw missing(`There is no printer ${asked}.`);
  return printer;
}
