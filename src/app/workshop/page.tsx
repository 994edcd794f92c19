import type { Metadata } from "next";
import { WorkshopPage } from "@/ui/workshop/workshop-page";

export const metadata: Metadata = { title: "Workshop" };

export default function Page() {
  return <WorkshopPage />;
}
