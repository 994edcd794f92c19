import type { Metadata } from "next";
import { PrinterPage } from "@/ui/printer/printer-page";

export const metadata: Metadata = { title: "Printer" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <PrinterPage id={Number((await params).id)} />;
}
