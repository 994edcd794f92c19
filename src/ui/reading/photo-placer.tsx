"use client";
/** A photo with two rings on it: one at the bottom edge of the piece, one at its top. Moved by pointer or by keys. */
import { KeyboardEvent, PointerEvent, useEffect, useRef } from "react";
import type { PhotoPlace, Pixel } from "@/core/reading/photo";
import { draftPlace, Picture, usePlace } from "./pictures";
import styles from "./reading.module.css";

interface Props {
  picture: Picture;
  /** The rings never come nearer, px of the picture. */
  least: number;
  onPlace(place: PhotoPlace): void;
}

/** The card's own room beside the log. */
const ROOM_PX = { width: 200, height: 260 };
const ends = ["top", "bottom"] as const;
type End = (typeof ends)[number];

const moves: Record<string, Pixel> = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] };
/** Keys that follow one another are stored together. */
const STORE_AFTER_MS = 500;

export function PhotoPlacer({ picture, least, onPlace }: Props) {
  const place = usePlace(picture);
  const { widthPx, heightPx } = picture;
  const scale = Math.min(ROOM_PX.width / widthPx, ROOM_PX.height / heightPx);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const photoId = picture.photo!.id;
  useEffect(() => () => draftPlace(photoId, null), [photoId]);
  // Once it is stored, what is stored is shown.
  useEffect(() => draftPlace(photoId, null), [photoId, picture.photo]);
  const move = (end: End, [x, y]: Pixel) => {
    const to: Pixel = [Math.min(widthPx, Math.max(0, x)), Math.min(heightPx, Math.max(0, y))];
    const other = place[end === "top" ? "bottom" : "top"];
    if (Math.hypot(to[0] - other[0], to[1] - other[1]) < least) return place;
    const next = { bottom: place.bottom, top: place.top, [end]: to };
    draftPlace(photoId, next);
    return next;
  };
  const drag = (end: End, event: PointerEvent<HTMLButtonElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const frame = event.currentTarget.parentElement!.getBoundingClientRect();
    move(end, [(event.clientX - frame.left) / scale, (event.clientY - frame.top) / scale]);
  };
  const press = (end: End, event: KeyboardEvent) => {
    const by = moves[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const far = (event.shiftKey ? 10 : 1) / Math.min(1, scale);
    const next = move(end, [place[end][0] + by[0] * far, place[end][1] + by[1] * far]);
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => onPlace(next), STORE_AFTER_MS);
  };
  return (
    <>
      <p className="dim">Put the rings at the bottom and the top edge of the piece.</p>
      <div className={styles.placer} style={{ width: widthPx * scale, height: heightPx * scale }}>
        <img src={picture.url} alt={picture.label} draggable={false} />
        <svg width={widthPx * scale} height={heightPx * scale} aria-hidden>
          <line
            x1={place.bottom[0] * scale}
            y1={place.bottom[1] * scale}
            x2={place.top[0] * scale}
            y2={place.top[1] * scale}
          />
        </svg>
        {ends.map((end) => (
          <button
            key={end}
            data-keys="own"
            className={styles.ring}
            style={{ left: place[end][0] * scale, top: place[end][1] * scale }}
            aria-label={`${end === "top" ? "Top" : "Bottom"} edge of the piece; arrow keys move it, with Shift farther`}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={(event) => drag(end, event)}
            onPointerUp={() => onPlace({ bottom: place.bottom, top: place.top })}
            onKeyDown={(event) => press(end, event)}
          />
        ))}
      </div>
    </>
  );
}
