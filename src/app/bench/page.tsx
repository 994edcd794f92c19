import type { Metadata } from "next";
import { benchPage } from "@/server/work/pages";
import { BenchPage } from "@/ui/bench/bench-page";
import { keys } from "@/ui/common/keys";
import { WithData } from "../with-data";

export const metadata: Metadata = { title: "Bench" };

function give() {
  const { printerId, spoolId, trials, road, isDemo } = benchPage();
  return [
    { queryKey: keys.trials, data: trials, isPart: true },
    { queryKey: keys.isDemo, data: isDemo },
    ...(road ? [{ queryKey: keys.road(printerId, spoolId), data: road }] : []),
  ];
}

export default function Page() {
  return (
    <WithData give={give}>
      <BenchPage />
    </WithData>
  );
}
