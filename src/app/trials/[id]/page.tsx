import type { Metadata } from "next";
import { TrialPage } from "@/ui/trials/trial-page";

export const metadata: Metadata = { title: "Trial" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <TrialPage id={Number((await params).id)} />;
}
