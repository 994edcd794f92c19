import type { Metadata } from "next";
import { MeasurePage } from "@/ui/measure/measure-page";

export const metadata: Metadata = { title: "Measure" };

export default function Page() {
  return <MeasurePage />;
}
