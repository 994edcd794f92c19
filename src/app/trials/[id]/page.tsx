import type { Metadata } from "next";
import { trialPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { TrialPage } from "@/ui/trials/trial-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "Trial" };

function give(id: number) {
  const given = trialPage(id);
  if (!given) return [];
  const { printerId, spoolId } = given.trial;
  return [
    { queryKey: keys.trial(id), data: given.trial },
    { queryKey: keys.keptOf(printerId, spoolId), data: given.kept },
  ];
}

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  return (
    <WithData give={() => give(id)}>
      <TrialPage id={id} />
    </WithData>
  );
}
