import type { Metadata } from "next";
import { keptPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { KeptPage } from "@/ui/shelf/kept-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "Kept values" };

const give = () => [{ queryKey: keys.allKept, data: keptPage() }];

export default function Page() {
  return (
    <WithData give={give}>
      <KeptPage />
    </WithData>
  );
}
