/** What the sheet routes share. */
import { z } from "zod";
import { sheetSchema } from "@/core/sheets/sheet-schema";
import { checked, readBody } from "./body";
import { pathId } from "./respond";
import { wholeOf } from "./window";
import { sheetInput, sheetOf } from "../work/sheets";

/** A sheet that was sent; what a kept one carries besides is left out. */
export async function readSheet(request: Request) {
  const { revision, id: _id, createdAt: _createdAt, updatedAt: _updatedAt, ...sheet } = await readBody(request, kept);
  return { sheet: checked(sheet, sheetSchema), revision };
}

const kept = z.looseObject({ revision: z.int().optional() });

/** The sheet of a path on the printer and spool of the query. */
export function inputOf(request: Request, params: Record<string, string>) {
  const asked = (name: string) => wholeOf(request, name, { low: 0, high: 1e9, otherwise: 0 }) || undefined;
  return sheetInput(sheetOf(pathId(params, "sheet")), { printerId: asked("printerId"), spoolId: asked("spoolId") });
}
