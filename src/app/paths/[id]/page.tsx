import type { Metadata } from "next";
import { sheetPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { SheetPage } from "@/ui/paths/sheet-page";
import { WithData } from "../../with-data";

export const metadata: Metadata = { title: "Sheet" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = Number((await params).id);
  return (
    <WithData give={() => [{ queryKey: keys.sheet(id), data: sheetPage(id) }]}>
      <SheetPage id={id} />
    </WithData>
  );
}
