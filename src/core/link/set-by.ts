/** Which line of whose set each firmware value last, since the printer was switched on or loaded its stored values. */
import { firmwareValues } from "../firmware/values";
import { readValues } from "../firmware/values/reading";
import type { Source } from "./state";

/** A line that set a value. */
export interface SetLine {
  source: Source;
  line: string;
  atMs: number;
}

/** Commands that set one; nearly all lines of a job are none of them. */
const setters: ReadonlySet<string> = new Set(firmwareValues.map(({ command }) => command));
/** Load what is stored, or what the factory gave: whoever set something before has no part in it any more. */
const loaders: ReadonlySet<string> = new Set(["M501", "M502"]);

export class SetBy {
  private readonly by = new Map<string, SetLine>();

  /** @param feedsPerMinute the printer counts feeds in mm/min */
  constructor(private readonly feedsPerMinute: boolean) {}

  /** A line the printer has taken. */
  hear(line: string, source: Source, atMs: number): void {
    const first = line.charCodeAt(0);
    // G moves, in their thousands.
    if (first === 71) return;
    const command = /^\s*([A-Z]+_[A-Z_]+|M\d+)/i.exec(line)?.[1].toUpperCase();
    if (command === undefined) return;
    if (loaders.has(command)) this.by.clear();
    if (!setters.has(command)) return;
    for (const { id } of readValues([line], this.feedsPerMinute).entries) this.by.set(id, { source, line, atMs });
  }

  /** Says who set a value that was set again only to be as it was. */
  note(id: string, set: SetLine): void {
    this.by.set(id, set);
  }

  /** Null where nothing has set it since. */
  of(id: string): SetLine | null {
    return this.by.get(id) ?? null;
  }

  /** Values that were last set by a source, at a moment or later. */
  since(source: Source, atMs: number): string[] {
    return [...this.by].filter(([, set]) => set.source === source && set.atMs >= atMs).map(([id]) => id);
  }

  /** Whether any value was set. */
  get isEmpty(): boolean {
    return this.by.size === 0;
  }

  /** The printer was switched off and on. */
  forget(): void {
    this.by.clear();
  }
}
