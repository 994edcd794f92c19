/** What a command's handler may use of the simulated printer. */
import type { MachineState } from "../machine/state";
import type { TalkLine } from "../gcode/talk-line";
import type { Printer } from "../shelf/printer";
import type { Extrusion } from "./extrusion";
import type { HeaterBank } from "./heater-bank";
import type { Memory } from "./memory";
import type { Personality } from "./personality";

export interface Parts {
  readonly nowS: number;
  readonly printer: Printer;
  readonly personality: Personality;
  readonly memory: Memory;
  /** As the command table has left it. */
  readonly state: MachineState;
  readonly heat: HeaterBank;
  readonly extrusion: Extrusion;
  /** Sends one line. */
  say(line: string): void;
  /** Plans a way to where the state stands now, from where it stood at `from`. */
  planFrom(from: Readonly<StatePlace>, feedMmS: number): void;
  /** Gives up waiting for heat. */
  stopWaiting(): void;
  /** Temperatures are reported by themselves this often, s; 0 ends it. */
  setReportEvery(seconds: number): void;
  /** The next numbered line is the one behind this. */
  countFrom(number: number): void;
  /** Starts anew once the line at hand is answered. */
  restartSoon(): void;
}

/** Where a state stands. */
export type StatePlace = Pick<MachineState, "x" | "y" | "z" | "e">;

/** What is remembered of the state before a command. */
export type Before = Readonly<StatePlace & Pick<MachineState, "drawnBack">>;

/** Why the next line has to wait. */
export interface Wait {
  /** Whether the wait is over. */
  over(parts: Parts): boolean;
  /** Done when it is over, before `ok`. */
  then?(parts: Parts): void;
  /** Temperatures are reported every second meanwhile. */
  reportsHeat?: boolean;
}

/**
 * What a command does besides its effect on the state (`machine/commands`): what it moves, waits for, and answers. `before` is where
 * the state stood. `"unknown"`: this printer does not know it.
 */
export type Handler = (parts: Parts, line: TalkLine, before: Before) => Wait | void | "unknown";

export type Handlers = Record<string, Handler>;
