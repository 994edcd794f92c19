/** Where a copy of a trial goes, as it comes over a border. */
import { z } from "zod";
import { nameSchema } from "../shelf/name";
import { idSchema } from "./trial-schema";

/** Where the copy goes; what is left out stays as it is. */
export const copySchema = z.object({
  printerId: idSchema("printerId").optional(),
  spoolId: idSchema("spoolId").optional(),
  name: nameSchema("copy").optional(),
});

export type CopyTarget = z.infer<typeof copySchema>;
