/** Data that several pages are given. */
import { measurePage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import type { Given } from "./with-data";

export function measuredData(): Given[] {
  const { printerId, spoolId, kept, measured, firmware } = measurePage();
  return [
    { queryKey: keys.keptOf(printerId, spoolId), data: kept },
    { queryKey: keys.measurementsOf(printerId), data: measured },
    { queryKey: keys.firmware(printerId), data: firmware },
  ];
}
