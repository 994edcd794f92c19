"use client";
import { useEffect, useState } from "react";

/** Height left on the page below `takenPx`, px; follows the window. */
export function useRoom(takenPx: number, least = 360): number {
  const [room, setRoom] = useState(560);
  useEffect(() => {
    const measure = () => setRoom(Math.max(least, window.innerHeight - takenPx));
    measure();
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, [takenPx, least]);
  return room;
}
