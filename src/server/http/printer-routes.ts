import { printerSchema } from "@/core/shelf/printer";
import { printers } from "../db/printers";
import { shelfRoutes } from "./shelf-routes";

export const printerRoutes = shelfRoutes(printers, printerSchema, "printer");
