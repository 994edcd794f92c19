import type { Metadata } from "next";
import { briefTrials, FIRST_TRIALS } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { TrialList } from "@/ui/trials/trial-list";
import { WithData } from "../with-data";

export const metadata: Metadata = { title: "Trials" };

const give = () => [{ queryKey: keys.trials, data: briefTrials(FIRST_TRIALS), isPart: true }];

export default function Page() {
  return (
    <WithData give={give}>
      <TrialList />
    </WithData>
  );
}
