import { Printer } from "@/core/shelf/printer";
import { printerSchema } from "@/core/shelf/printer-schema";
import { shelfTable, Stored } from "./shelf-table";

export const printers = shelfTable<Printer>("printers", printerSchema);

export type SavedPrinter = Stored<Printer>;
