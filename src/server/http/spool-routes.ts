import { newSpoolSchema, spoolSchema } from "@/core/shelf/spool-schema";
import { spools } from "../db/spools";
import { shelfRoutes } from "./shelf-routes";

export const spoolRoutes = shelfRoutes(spools, spoolSchema, "spool", { added: newSpoolSchema });
