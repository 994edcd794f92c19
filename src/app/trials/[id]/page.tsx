import type { Metadata } from "next";
import { trialPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { TrialPage } from "@/ui/trials/trial-page";
import { Given, WithData } from "../../with-data";

export const metadata: Metadata = { title: "Trial" };

async function give(id: number): Promise<Given[]> {
  const given = await trialPage(id);
  if (!given) return [];
  const { printerId, spoolId } = given.trial;
  return [
    { queryKey: keys.trial(id), data: given.trial },
    { queryKey: keys.keptOf(printerId, spoolId), data: given.kept },
    { queryKey: keys.expected(printerId, spoolId), data: given.expected },
    { queryKey: keys.ceiling(printerId), data: given.ceiling },
    ...(given.view ? [{ queryKey: keys.trialView(id, given.trial.version), data: given.view }] : []),
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
