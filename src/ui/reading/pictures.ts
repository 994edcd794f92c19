"use client";
/** Pictures of a piece that can stand beside its bands: photos, and drawings of what a simulated printer made. */
import { useEffect, useState, useSyncExternalStore } from "react";
import { Photo, PhotoPlace, Side, sides } from "@/core/reading/photo";
import type { SentRun } from "./run-data";

export interface Picture {
  key: string;
  label: string;
  url: string;
  side: Side;
  widthPx: number;
  heightPx: number;
  /** Where the piece lies on it. */
  place: PhotoPlace;
  /** The stored photo; undefined for a drawing. */
  photo?: Photo;
}

export function usePictures(run: SentRun): Picture[] {
  const drawn = useDrawn(run);
  const photos = run.photos.map((photo, i): Picture => {
    const { id, side, widthPx, heightPx } = photo;
    const label = `Photo ${i + 1}, ${side}`;
    return {
      key: `photo ${id}`,
      label,
      url: `/api/runs/${run.id}/photos/${id}`,
      side,
      widthPx,
      heightPx,
      place: photo,
      photo,
    };
  });
  return [...photos, ...drawn];
}

/** Both sides of a simulated piece, as soon as they are drawn. Their bottom edge is the bed, their top the topmost layer. */
function useDrawn({ id, isSimulated }: SentRun): Picture[] {
  const [drawn, setDrawn] = useState<{ id: number; pictures: Picture[] }>({ id, pictures: [] });
  useEffect(() => {
    if (!isSimulated) return;
    let gone = false;
    const load = async () => {
      const pictures = await Promise.all(
        sides.map(async (side) => {
          const url = `/api/runs/${id}/piece?side=${side}`;
          const image = new Image();
          image.src = url;
          await image.decode();
          const { naturalWidth: widthPx, naturalHeight: heightPx } = image;
          const x = widthPx / 2;
          const place: PhotoPlace = { bottom: [x, heightPx], top: [x, 0] };
          return { key: `piece ${side}`, label: `The piece, ${side}`, url, side, widthPx, heightPx, place };
        }),
      );
      if (!gone) setDrawn({ id, pictures });
    };
    load().catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [id, isSimulated]);
  return isSimulated && drawn.id === id ? drawn.pictures : [];
}

/** Where photos are being laid just now: everything that shows one of them follows, and nothing else is drawn again. */
const drafts = new Map<number, PhotoPlace>();
const listeners = new Set<() => void>();

export function draftPlace(photoId: number, place: PhotoPlace | null): void {
  if (place) drafts.set(photoId, place);
  else drafts.delete(photoId);
  listeners.forEach((listener) => listener());
}

function listen(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Where the piece lies on a picture, as it is being laid. */
export function usePlace({ photo, place }: Picture): PhotoPlace {
  const draft = useSyncExternalStore(
    listen,
    () => (photo ? drafts.get(photo.id) : undefined),
    () => undefined,
  );
  return draft ?? place;
}
