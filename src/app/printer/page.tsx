import type { Metadata } from "next";
import { BenchPrinterPage } from "@/ui/printer/printer-page";

export const metadata: Metadata = { title: "Printer" };

export default function Page() {
  return <BenchPrinterPage />;
}
