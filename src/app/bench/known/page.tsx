import type { Metadata } from "next";
import { knownPage } from "@/server/work/pages";
import { KnownPage } from "@/ui/bench/known-page";
import { keys } from "@/ui/common/keys";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "What this bench knows" };

const give = async () => [{ queryKey: keys.known, data: await knownPage() }];

export default function Page() {
  return (
    <WithData give={give}>
      <KnownPage />
    </WithData>
  );
}
