"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef } from "react";
import { areas } from "./areas";

/** Whether the keyboard is busy with a field. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Whether a dialog has the keyboard: what lies behind it is not meant. */
export function isInDialog(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest("[role=dialog]") !== null;
}

/** `?` lists the keys, Ctrl or ⌘ K finds anything, G and a letter goes to an area. */
export function useGlobalKeys({ onKeys, onFind }: { onKeys(): void; onFind(): void }): void {
  const router = useRouter();
  const handlers = useRef({ onKeys, onFind });
  useEffect(() => {
    handlers.current = { onKeys, onFind };
  });
  useEffect(() => {
    let goingUntil = 0;
    const press = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        handlers.current.onFind();
        return;
      }
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") handlers.current.onKeys();
      else if (event.key.toLowerCase() === "g") goingUntil = event.timeStamp + 1500;
      else if (event.timeStamp < goingUntil) {
        const area = areas.find(({ key }) => key === event.key.toUpperCase());
        goingUntil = 0;
        if (area) router.push(area.path);
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [router]);
}
