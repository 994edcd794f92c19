/** Lines of the user's own that a band or a change puts in beside its settings. They are passed on as they are typed. */
import { z } from "zod";

const MOST_LINES = 20;

/** `["M117 Band 3"]`: at most 20 lines without comments, for the comment is Cuchara's mark. */
export const freeLinesSchema = z
  .array(
    z
      .string({ error: "A line must be text" })
      .trim()
      .min(1, "A line is empty: write a command, or take it out")
      .max(200, "A line is longer than 200 characters")
      .regex(/^[^\r\n\0]*$/, "A line holds a line break: give each command its own line")
      .regex(/^[^;]*$/, "A line holds a comment: leave everything from ; on away, Cuchara marks the line itself"),
    { error: "Lines are a list of texts" },
  )
  .max(MOST_LINES, `At most ${MOST_LINES} lines at one place`);
