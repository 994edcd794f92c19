/**
 * The words behind one command, whoever cut them: a whole program comes as bytes (`gcode/scan`), a line of talk as text
 * (`gcode/talk-line`). Everything that gives a command its meaning asks through this.
 */
export interface Words {
  /** The figure of the first word called `name` (`S`, or the key of a named command), NaN if there is none or it stands bare. */
  value(name: string): number;
  /** Whether such a word stands there, with or without a figure. */
  has(name: string): boolean;
  /** How many words there are. */
  readonly count: number;
  /** What stands behind a command that takes text, else empty. */
  readonly text: string;
}
