import type { Metadata } from "next";
import { filePage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { FilePage } from "@/ui/workshop/file-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "File" };

async function give(id: number) {
  const { file, report, edits } = await filePage(id);
  return [
    ...(file ? [{ queryKey: keys.file(id), data: file }] : []),
    ...(report ? [{ queryKey: keys.fileReport(id), data: report }] : []),
    ...(edits ? [{ queryKey: keys.fileEdits(id), data: edits }] : []),
  ];
}

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  return (
    <WithData give={() => give(id)}>
      <FilePage id={id} />
    </WithData>
  );
}
