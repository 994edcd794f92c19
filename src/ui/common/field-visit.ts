"use client";
/** Which visit of a field the hand is on: what is typed from coming to a field to leaving it is one step of undo. */

let visits = 0;
if (typeof document !== "undefined") document.addEventListener("focusin", () => void visits++, true);

/** A name for the visit of the field that is typed in now; null where nothing is typed in. */
export function fieldVisit(): string | null {
  if (typeof document === "undefined") return null;
  const field = document.activeElement;
  const isTyped =
    field instanceof HTMLTextAreaElement ||
    (field instanceof HTMLInputElement && !["checkbox", "radio", "range", "button"].includes(field.type));
  return isTyped ? `visit ${visits}` : null;
}
