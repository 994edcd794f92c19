/** Small pictures that were made, as JSON text. They can be made anew: losing the last ones to a power cut loses nothing. */
import { database, quickDatabase } from "./connection";

export type ThumbnailSubject = "trial" | "file" | "sheet" | "example";

export const thumbnails = {
  /** The picture of a subject; null if there is none, or if it was made of something else than this digest stands for. */
  get(subject: ThumbnailSubject, id: number, madeOf: string): string | null {
    const row = database()
      .prepare("SELECT picture FROM thumbnails WHERE subject = ? AND subject_id = ? AND made_of = ?")
      .get(subject, id, madeOf) as { picture: string } | undefined;
    return row?.picture ?? null;
  },
  /** Keeps the picture of a subject in place of the one before. */
  put(subject: ThumbnailSubject, id: number, madeOf: string, picture: string): void {
    quickDatabase()
      .prepare("INSERT OR REPLACE INTO thumbnails (subject, subject_id, made_of, picture) VALUES (?, ?, ?, ?)")
      .run(subject, id, madeOf, picture);
  },
};

/** First pieces are kept of so many pairs; those that were made longest ago go. */
const MOST_PAIRS = 40;

export const firstPiecesKept = {
  /** The first pieces of a pair as JSON text; null if there are none, or if they were made of something else. */
  get(printerId: number, spoolId: number, madeOf: string): string | null {
    const row = database()
      .prepare("SELECT pieces FROM first_pieces WHERE printer_id = ? AND spool_id = ? AND made_of = ?")
      .get(printerId, spoolId, madeOf) as { pieces: string } | undefined;
    return row?.pieces ?? null;
  },
  put(printerId: number, spoolId: number, madeOf: string, pieces: string): void {
    quickDatabase()
      .prepare("INSERT OR REPLACE INTO first_pieces (printer_id, spool_id, made_of, pieces) VALUES (?, ?, ?, ?)")
      .run(printerId, spoolId, madeOf, pieces);
    quickDatabase()
      .prepare(
        "DELETE FROM first_pieces WHERE rowid NOT IN (SELECT rowid FROM first_pieces ORDER BY rowid DESC LIMIT ?)",
      )
      .run(MOST_PAIRS);
  },
};
