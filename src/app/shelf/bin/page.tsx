import type { Metadata } from "next";
import { binPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { BinPage } from "@/ui/shelf/bin-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "Bin" };

const give = () => [{ queryKey: keys.bin, data: binPage() }];

export default function Page() {
  return (
    <WithData give={give}>
      <BinPage />
    </WithData>
  );
}
