import type { Metadata } from "next";
import { ShelfPage } from "@/ui/shelf/shelf-page";

export const metadata: Metadata = { title: "Shelf" };

export default function Page() {
  return <ShelfPage />;
}
