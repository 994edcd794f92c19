import { Spool } from "@/core/shelf/spool";
import { spoolSchema } from "@/core/shelf/spool-schema";
import { shelfTable } from "./shelf-table";

export const spools = shelfTable<Spool>("spools", spoolSchema);
