import type { Metadata } from "next";
import { TrialList } from "@/ui/trials/trial-list";

export const metadata: Metadata = { title: "Trials" };

export default function Page() {
  return <TrialList />;
}
