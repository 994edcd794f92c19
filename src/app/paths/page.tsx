import type { Metadata } from "next";
import { sheetsPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { PathsPage } from "@/ui/paths/paths-page";
import { WithData } from "../with-data";

export const metadata: Metadata = { title: "Paths" };

export default function Page() {
  return (
    <WithData give={() => [{ queryKey: keys.sheets, data: sheetsPage() }]}>
      <PathsPage />
    </WithData>
  );
}
