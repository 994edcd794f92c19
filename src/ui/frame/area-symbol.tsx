/** A small drawing for each area, shown where there is little room beside its word. */
import type { areas } from "./areas";

type Path = (typeof areas)[number]["path"];

/** Lines on a square of 24, round ends. */
const drawings: Record<Path, string> = {
  // A bench with a piece on it.
  "/bench": "M3 13h18M5.5 13v7M18.5 13v7M9 13V6h6v7M9 9.5h6",
  // A tower with its bands and overhangs.
  "/trials": "M7 21V4h8M7 9.5h8M7 15h8M15 4l4 2.5-4 3zM15 9.5l4 2.5-4 3zM4 21h16",
  // A page with a changed line.
  "/workshop": "M6 3h8l4 4v14H6zM14 3v4h4M9 12h6M9 16h3",
  // A stroke that turns back and forth.
  "/paths": "M3 6h13a3.2 3.2 0 0 1 0 6.4H8a3.2 3.2 0 0 0 0 6.4h13",
  // A nozzle over a bead.
  "/printer": "M7 3h10v7l-3.5 4h-3L7 10zM3 20h18M12 14v3",
  // A calliper on a wall.
  "/measure": "M3 5h18M6 5v11l-3-3M14 5v11l3-3M9 8v6M11 8v6",
  // Two boards with a spool.
  "/shelf": "M3 11h18M3 21h18M12 2.5a4 4 0 1 0 .01 0M12 6a.6.6 0 1 0 .01 0M6 21v-6h5v6M15 21v-4h4v4",
};

export function AreaSymbol({ path, className }: { path: Path; className?: string }) {
  return (
    <svg className={className} width={22} height={22} viewBox="0 0 24 24" aria-hidden>
      <path
        d={drawings[path]}
        fill="none"
        stroke="currentColor"
        strokeWidth={1.7}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
