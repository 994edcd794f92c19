import type { Metadata } from "next";
import { benchData, galleryPage } from "@/server/work/pages";
import { keys } from "@/ui/common/keys";
import { GalleryPage } from "@/ui/trials/gallery-page";
import { Given, WithData } from "../../with-data";

export const metadata: Metadata = { title: "New trial" };

type Asked = Partial<Record<"printerId" | "spoolId", string>>;

async function give(asked: Asked): Promise<Given[]> {
  const { bench } = benchData();
  const printerId = Number(asked.printerId) || (bench.printerId ?? 0);
  const spoolId = Number(asked.spoolId) || (bench.spoolId ?? 0);
  if (printerId === 0 || spoolId === 0) return [];
  const { road, pieces } = await galleryPage(printerId, spoolId);
  return [
    { queryKey: keys.road(printerId, spoolId), data: road },
    ...(pieces ? [{ queryKey: keys.firstPieces(printerId, spoolId), data: pieces }] : []),
  ];
}

export default async function Page({ searchParams }: { searchParams: Promise<Asked> }) {
  const asked = await searchParams;
  return (
    <WithData give={() => give(asked)}>
      <GalleryPage />
    </WithData>
  );
}
