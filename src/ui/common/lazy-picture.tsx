"use client";
/** The small picture of something in a list: asked for when its row comes into sight, and stays. */
import { useQuery } from "@tanstack/react-query";
import type { Thumbnail } from "@/core/laid/thumbnail";
import { api } from "./api";
import { keys } from "./keys";
import styles from "./lazy-picture.module.css";
import { PiecePicture } from "./piece-picture";

interface Props {
  /** `/trials/7` */
  path: string;
  /** What it is a picture of in its present form: another version, another picture. */
  version: string | number;
  box: { widthPx: number; heightPx: number };
  winner?: number | null;
}

export function LazyPicture({ path, version, box, winner }: Props) {
  const { data } = useQuery({
    queryKey: keys.thumbnail(path, version),
    queryFn: () => api.get<Thumbnail>(`${path}/thumbnail`),
    staleTime: Infinity,
    retry: false,
  });
  return <PictureBox picture={data} box={box} winner={winner} />;
}

/** A picture in a box of fixed size, standing on its ground; the box is empty until the picture is there. */
export function PictureBox({ picture, box, winner }: Pick<Props, "box" | "winner"> & { picture?: Thumbnail | null }) {
  const { widthPx, heightPx } = box;
  return (
    <span className={styles.box} style={{ width: widthPx, height: heightPx }} aria-hidden>
      {picture && (
        <PiecePicture
          picture={picture}
          winner={winner}
          pxPerMm={Math.min((widthPx - 8) / Math.max(picture.widthMm, 1), heightPx / Math.max(picture.heightMm, 1))}
        />
      )}
    </span>
  );
}
