import type { Metadata } from "next";
import { programPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { ProgramPage } from "@/ui/program/program-page";
import { WithData } from "../../../with-data";

export const metadata: Metadata = { title: "Program" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  return (
    <WithData give={() => [{ queryKey: keys.writtenProgram(id), data: programPage(id) }]}>
      <ProgramPage id={id} />
    </WithData>
  );
}
