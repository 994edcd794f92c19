/** The words of one command of a scanned line, as everything that gives commands a meaning asks for them. */
import type { Words } from "../machine/words";
import { Line } from "./scan";

const G = 71;
const M = 77;

/** One object is reused from command to command: copy what must last. */
export class LineWords implements Words {
  private from = 0;
  private to = 0;
  private keys: Map<string, number> | null = null;

  constructor(private line: Line) {}

  /** Sets it to the words `from` (included) to `to` (excluded) of its line. */
  set(line: Line, from: number, to: number): this {
    this.line = line;
    this.from = from;
    this.to = to;
    this.keys = null;
    return this;
  }

  /** Sets it to the `KEY=value` pairs of a named command. */
  setNamed(line: Line): this {
    this.line = line;
    this.from = this.to = 0;
    this.keys = new Map(namedPairs(line.namedCommand()).map(({ key, value }) => [key, value]));
    return this;
  }

  get count(): number {
    return this.keys ? this.keys.size : this.to - this.from;
  }

  get text(): string {
    return this.keys ? this.line.namedCommand() : this.line.freeText();
  }

  value(name: string): number {
    if (this.keys) return this.keys.get(name) ?? NaN;
    const letter = name.charCodeAt(0);
    const { letters, values } = this.line;
    for (let i = this.from; i < this.to; i++) if (letters[i] === letter) return values[i];
    return NaN;
  }

  has(name: string): boolean {
    if (this.keys) return this.keys.has(name);
    const letter = name.charCodeAt(0);
    const { letters } = this.line;
    for (let i = this.from; i < this.to; i++) if (letters[i] === letter) return true;
    return false;
  }
}

/** `KEY=value` pairs behind the name; a value that is no figure is NaN. */
export function namedPairs(text: string): { key: string; value: number; text: string }[] {
  return text
    .trim()
    .split(/\s+/)
    .slice(1)
    .flatMap((pair) => {
      const equals = pair.indexOf("=");
      if (equals <= 0) return [];
      const written = pair.slice(equals + 1);
      return [{ key: pair.slice(0, equals).toUpperCase(), value: written === "" ? NaN : Number(written), text: pair }];
    });
}

/** The name of a named command, in capitals. */
export function nameOf(text: string): string {
  return text.trim().split(/\s/, 1)[0].toUpperCase();
}

/**
 * Calls `each` for every command of a line with the span of words it has: from its own word (included) to the next command
 * (excluded). Several may stand on one line (`G90 G1 X5`).
 */
export function forEachCommand(line: Line, each: (from: number, to: number) => void): void {
  if (line.wordCount === 0) return;
  if (line.commandCount <= 1) return each(0, line.wordCount);
  let from = 0;
  for (let i = 1; i <= line.wordCount; i++) {
    const ends = i === line.wordCount || line.letters[i] === G || line.letters[i] === M;
    if (!ends) continue;
    each(from, i);
    from = i;
  }
}

/** A command with a name of its own (a macro), not a letter and a number: it may do anything. */
export const isNamed = (command: string): boolean => /[A-Z_]{3,}/.test(command);
