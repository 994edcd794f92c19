"use client";
import Link from "next/link";

/** What stands on a page that needs a printer while there is none. */
export function NoPrinter() {
  return (
    <div className="empty">
      <h1>No printer yet</h1>
      <p>
        Put a printer on the <Link href="/shelf/printers/new">shelf</Link> first.
      </p>
    </div>
  );
}
