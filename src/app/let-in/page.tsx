import type { Metadata } from "next";
import { LetInPage } from "@/ui/frame/let-in-page";

export const metadata: Metadata = { title: "Let in" };

export default function Page() {
  return <LetInPage />;
}
