import { Spool, spoolSchema } from "@/core/shelf/spool";
import { shelfTable } from "./shelf-table";

export const spools = shelfTable<Spool>("spools", spoolSchema);
