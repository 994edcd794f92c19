/** A sheet as the server keeps it. */
import type { Sheet } from "@/core/sheets/sheet";

export type KeptSheet = Sheet & { id: number; revision: number };

/** The sheet alone, without what the server adds to it. */
export const sheetOf = ({
  version,
  name,
  figures,
  bead,
  speedMmS,
  items,
  keepOut,
  optimise,
  rehearse,
}: KeptSheet | Sheet): Sheet => ({
  version,
  name,
  figures,
  bead,
  speedMmS,
  items,
  keepOut,
  ...(optimise ? { optimise } : {}),
  ...(rehearse ? { rehearse } : {}),
});
