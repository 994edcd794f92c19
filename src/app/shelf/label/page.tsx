import type { Metadata } from "next";
import { LabelPage } from "@/ui/shelf/label-page";

/** The pair stands in the address. */
export const dynamic = "force-dynamic";

export const metadata: Metadata = { title: "Label" };

export default function Page() {
  return <LabelPage />;
}
