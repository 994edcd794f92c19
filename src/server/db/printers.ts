import { Printer, printerSchema } from "@/core/shelf/printer";
import { shelfTable, Stored } from "./shelf-table";

export const printers = shelfTable<Printer>("printers", printerSchema);

export type SavedPrinter = Stored<Printer>;
