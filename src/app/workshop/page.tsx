import type { Metadata } from "next";
import { listedFiles } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { WorkshopPage } from "@/ui/workshop/workshop-page";
import { WithData } from "../with-data";

export const metadata: Metadata = { title: "Workshop" };

const give = () => [{ queryKey: keys.files, data: listedFiles() }];

export default function Page() {
  return (
    <WithData give={give}>
      <WorkshopPage />
    </WithData>
  );
}
