import type { Metadata } from "next";
import { knownOnBench } from "@/server/work/known";
import { KnownPage } from "@/ui/bench/known-page";
import { keys } from "@/ui/common/keys";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "What this bench knows" };

const give = () => [{ queryKey: keys.known, data: knownOnBench() }];

export default function Page() {
  return (
    <WithData give={give}>
      <KnownPage />
    </WithData>
  );
}
