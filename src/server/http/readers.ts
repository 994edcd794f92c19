/** Who reads: the name in a path, and how many of them read one piece. */
import { readings } from "../db/runs";
import { Refused } from "../refused";

const MOST_NAME = 60;
const MOST_READERS = 50;

/** The reader of a path; refused if it is no name, or one too many for the run. */
export function readerOf(params: Record<string, string>, runId: number): string {
  const reader = params.reader.trim();
  if (reader === "" || reader.length > MOST_NAME) {
    throw new Refused("invalid", `A reader's name is 1 to ${MOST_NAME} characters.`, { field: "reader" });
  }
  const known = readings.ofRun(runId);
  if (known.length >= MOST_READERS && !known.some((one) => one.reader === reader)) {
    throw new Refused("too-large", `At most ${MOST_READERS} readers read one piece.`);
  }
  return reader;
}
