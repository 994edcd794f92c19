import type { Metadata } from "next";
import { NewPrinterPage } from "@/ui/shelf/new-printer";
import { PrinterPage } from "@/ui/shelf/record-pages";

export const metadata: Metadata = { title: "Printer" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return id === "new" ? <NewPrinterPage /> : <PrinterPage id={Number(id)} />;
}
