import type { Metadata } from "next";
import { SpoolPage } from "@/ui/shelf/record-pages";

export const metadata: Metadata = { title: "Spool" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  return <SpoolPage id={id === "new" ? null : Number(id)} />;
}
