"use client";
import { useEffect, useRef } from "react";
import { isInDialog } from "../frame/use-global-keys";

/** Undo and redo anywhere on a sheet's page; in a field, too, for every letter of it is a step of the sheet. */
export function useSheetKeys(acts: { undo(): void; redo(): void }): void {
  const latest = useRef(acts);
  useEffect(() => {
    latest.current = acts;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || isInDialog(event.target)) return;
      const key = event.key.toLowerCase();
      if (key !== "z" && key !== "y") return;
      event.preventDefault();
      if (key === "y" || event.shiftKey) latest.current.redo();
      else latest.current.undo();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
