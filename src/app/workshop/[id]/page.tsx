import type { Metadata } from "next";
import { FilePage } from "@/ui/workshop/file-page";

export const metadata: Metadata = { title: "File" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <FilePage id={Number((await params).id)} />;
}
