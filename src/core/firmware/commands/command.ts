/** One command of the firmware table: what it does and what each of its words means. */
export interface Command {
  /** `M104`, or the name of a keyword command. */
  code: string;
  /** What it does, as the start of a sentence. */
  does: string;
  /** Letter (or key) → what its figure is, with the unit. */
  words?: Record<string, string>;
  /** The rest of the line is text. */
  takesText?: boolean;
  /** A line to start from when it is chosen from a list. */
  example?: string;
}
