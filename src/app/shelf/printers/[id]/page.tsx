import type { Metadata } from "next";
import { PrinterPage } from "@/ui/shelf/record-pages";

export const metadata: Metadata = { title: "Printer" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return <PrinterPage id={id === "new" ? null : Number(id)} />;
}
