/** One command of the language: its words, what they do, what it answers, and when it is dangerous. */
import { dialects } from "./dialects";
import { ownCommands } from "./dialects/dialect";
import type { EventKind } from "./event-kind";
import type { Reading } from "./reading";
import type { MachineState } from "./state";
import type { Words } from "./words";

/** Says one quantity; `index` is the tool or fan it is for. */
export type Tell = (kind: EventKind, value: number, index: number) => void;

/** What a command does before its `ok` comes, besides being taken. */
export type Waits = "heat" | "still" | "homing" | "probing" | "dwell" | "tuning" | "start" | "person";

/** What is answered besides `ok`. */
export type Asks = "temperatures" | "position" | "identity" | "values" | "text";

export type DangerKind = "heater" | "saving" | "unhomed" | "cold";

export interface Command {
  /** `M104`, or the name of a named command. */
  code: string;
  /** What it does, as the start of a sentence. */
  does: string;
  /** Letter (or key) → what its figure is, with the unit. */
  words?: Record<string, string>;
  /** The rest of the line is text. */
  takesText?: boolean;
  /** A line to start from when it is chosen from a list. */
  example?: string;
  /** What it does to the state by itself, and what it tells. Quantities that are told reach the state by `obey`. */
  act?(state: MachineState, words: Words, tell: Tell, reading: Reading): void;
  /** It moves something: how a straight line and an arc run, is `motion.ts`; the others are what they say. */
  moves?: "straight" | "clockwise" | "counter-clockwise" | "draw-back" | "give-back" | "home";
  waits?: Waits;
  asks?: Asks;
  /** Why it should be asked about before it is sent. Heating, and moving unhomed or cold, are seen from what it tells and moves. */
  danger?: { kind: DangerKind; reason: string };
}

/** Whether a printer has the command. One that is not known takes everything. */
export function hasCommand({ code }: Command, { dialect }: Reading): boolean {
  return dialect === null || !ownCommands.has(code) || dialects[dialect].takes.has(code);
}
