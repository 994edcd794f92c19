"use client";
import type { RoadStep } from "@/core/road/road";
import type { FirstPiece } from "@/core/trials/effort";
import type { TrialKind } from "@/core/trials/kind";
import { plainNumber, sayDuration } from "@/core/units";
import { PiecePicture } from "../common/piece-picture";
import styles from "./gallery.module.css";

interface Props {
  kind: TrialKind;
  /** How far it has come; what is no step of the road has none. */
  step: RoadStep | undefined;
  /** As soon as it is built. */
  piece: FirstPiece | undefined;
  pxPerMm: number;
  tallPx: number;
  isBusy: boolean;
  onAsk(): void;
}

/** One question: its piece on the ground line, what it answers, what it takes, and how far it has come. */
export function GalleryCard({ kind, step, piece, pxPerMm, tallPx, isBusy, onAsk }: Props) {
  return (
    <li className={step?.isNext ? styles.next : undefined}>
      <button className={styles.card} disabled={isBusy} title={kind.explains} onClick={onAsk}>
        <span className={styles.stage} style={{ height: tallPx }}>
          {piece && <PiecePicture picture={piece.thumbnail} pxPerMm={pxPerMm} lies />}
        </span>
        <span className={styles.name}>{kind.label}</span>
        <span className={styles.answers}>{kind.answers}</span>
        <span className={`mono ${styles.effort}`}>{piece ? sayPiece(piece) : "\u00a0"}</span>
        <span className={styles.state}>{sayState(step)}</span>
      </button>
    </li>
  );
}

/** `35 min · 4.7 g · 33 mm high` */
function sayPiece({ seconds, massG, heightMm, thumbnail }: FirstPiece): string {
  const size = thumbnail.seenFrom === "above" ? "flat" : `${plainNumber(heightMm, 0)} mm high`;
  return `${sayDuration(seconds)} · ${plainNumber(massG, 1)} g · ${size}`;
}

function sayState(step: RoadStep | undefined): string {
  if (step?.what !== "trial") return "";
  const { state, isNext, found, row } = step;
  const said: Record<RoadStep["state"], string> = {
    never: isNext || !row.needs ? "" : `Better after: ${row.needs}`,
    planned: "Planned, not printed yet",
    printing: "Printing now",
    waiting: "Printed, not read yet",
    kept: `Kept: ${found}`,
    carried: `Taken over: ${found}`,
    stale: "Ask again: something has changed",
  };
  return `${isNext ? "Next. " : ""}${said[state]}`;
}
