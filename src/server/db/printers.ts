import { Printer, printerSchema } from "@/core/shelf/printer";
import { shelfTable } from "./shelf-table";

export const printers = shelfTable<Printer>("printers", printerSchema);
