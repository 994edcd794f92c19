import type { Metadata } from "next";
import { ProgramPage } from "@/ui/shelf/program-page";

export const metadata: Metadata = { title: "This program" };

export default function Page() {
  return <ProgramPage />;
}
