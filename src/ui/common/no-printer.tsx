"use client";
import { PointedLink } from "./pointed-link";

/** What stands on a page that needs a printer while there is none. */
export function NoPrinter() {
  return (
    <div className="empty">
      <h1>No printer yet</h1>
      <p>
        Put a printer on the <PointedLink href="/shelf/printers/new">shelf</PointedLink> first.
      </p>
    </div>
  );
}
