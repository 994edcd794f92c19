import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { TuneKey, tuneKeys } from "@/core/measure";
import { measuredData } from "../../give";
import { WithData } from "../../with-data";
import { TunePage } from "@/ui/measure/tune-page";

export const metadata: Metadata = { title: "Measure" };

export default async function Page({ params }: { params: Promise<{ tune: string }> }) {
  const { tune } = await params;
  if (!tuneKeys.includes(tune as TuneKey)) notFound();
  return (
    <WithData give={measuredData}>
      <TunePage tuneKey={tune as TuneKey} />
    </WithData>
  );
}
