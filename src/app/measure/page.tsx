import type { Metadata } from "next";
import { measuredData } from "../give";
import { MeasurePage } from "@/ui/measure/measure-page";
import { WithData } from "../with-data";

export const metadata: Metadata = { title: "Measure" };

export default function Page() {
  return (
    <WithData give={measuredData}>
      <MeasurePage />
    </WithData>
  );
}
