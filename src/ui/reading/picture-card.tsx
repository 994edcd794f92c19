"use client";
/** The pictures of a piece: which one stands beside the bands, new photos, and where the piece lies on a photo. */
import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { DragEvent, useState } from "react";
import { LEAST_APART_PX, Photo, PhotoPlace, Side, sides } from "@/core/reading/photo";
import { api, readAnswer } from "../common/api";
import { Choice } from "../common/choice";
import { keys } from "../common/keys";
import { PickFile } from "../common/pick-file";
import { useRemoveWithUndo } from "../common/queries";
import { Segments } from "../common/segments";
import { useTell } from "../common/talk";
import { useAct } from "../common/use-act";
import { OnThePhone } from "./on-the-phone";
import { PhotoPlacer } from "./photo-placer";
import type { Picture } from "./pictures";
import styles from "./reading.module.css";
import type { SentRun } from "./run-data";
import { smallerPhoto } from "./smaller-photo";

interface Props {
  trialId: number;
  run: SentRun;
  pictures: Picture[];
  /** Null: the drawing of the plan. */
  shown: Picture | null;
  onShow(key: string | null): void;
}

export function PictureCard({ trialId, run, pictures, shown, onShow }: Props) {
  const client = useQueryClient();
  const tell = useTell();
  const { busy, act } = useAct();
  const [side, setSide] = useState<Side>("front");
  const [isOver, setOver] = useState(false);
  const remove = useRemoveWithUndo(`/runs/${run.id}/photos`, "runs");
  const refresh = () => client.invalidateQueries({ queryKey: keys.runs(trialId) });
  const add = (files: readonly File[]) =>
    act(async () => {
      let last: Photo | null = null;
      for (const file of files) last = await sendPhoto(run.id, side, file);
      await refresh();
      if (last) onShow(`photo ${last.id}`);
    });
  const place = async (photo: Photo, to: PhotoPlace) => {
    try {
      await api.put(`/runs/${run.id}/photos/${photo.id}`, to);
      await refresh();
    } catch (error) {
      tell.error(error);
    }
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    if (event.dataTransfer.files.length > 0) void add([...event.dataTransfer.files]);
  };
  return (
    <section
      className={`card ${styles.pictures}`}
      aria-label="Pictures of the piece"
      data-over={isOver || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <h2>Beside the bands</h2>
      <Choice
        label="What stands beside the bands"
        value={shown?.key ?? "plan"}
        options={[
          { value: "plan", label: "The plan’s drawing" },
          ...pictures.map(({ key, label }) => ({ value: key, label })),
        ]}
        onChange={(key) => onShow(key === "plan" ? null : key)}
      />
      {shown?.photo && (
        <>
          <PhotoPlacer
            key={shown.key}
            picture={shown}
            least={LEAST_APART_PX}
            onPlace={(to) => void place(shown.photo!, to)}
          />
          <Button size="small" onClick={() => void remove(shown.photo!.id, "the photo")}>
            Remove this photo
          </Button>
        </>
      )}
      <div className={styles.addPhoto}>
        <Segments
          label="Side of the piece on the photo"
          small
          value={side}
          options={sides.map((value) => ({ value, label: value }))}
          onChange={setSide}
        />
        <PickFile
          label="Photo of the piece"
          accept="image/jpeg,image/png,image/webp"
          multiple
          loading={busy}
          onPick={(files) => void add(files)}
        >
          Add a photo
        </PickFile>
      </div>
      <p className="dim">Or drop it here. It is made smaller, and where it was taken is not kept.</p>
      <OnThePhone path={`/trials/${trialId}?step=read`} />
    </section>
  );
}

async function sendPhoto(runId: number, side: Side, file: File): Promise<Photo> {
  const body = await smallerPhoto(file);
  const response = await fetch(`/api/runs/${runId}/photos?side=${side}`, {
    method: "POST",
    headers: { "Content-Type": body.type || "application/octet-stream" },
    body,
  });
  return readAnswer<Photo>(response.status, await response.text());
}
