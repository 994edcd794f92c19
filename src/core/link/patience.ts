/** How long a printer may be silent over a line, by what the line is: a lost answer is noticed, a long command is waited for. */
import { forEachTalked } from "../gcode/talk-line";
import type { Waits } from "../machine/command";
import { targetOf } from "../machine/motion";
import type { MachineState } from "../machine/state";
import { readBlank } from "./blank";

/** What a line may take beyond the usual silence, s. Common practice, no source: slow beds take ten minutes to 100 °C. */
const longestS: Record<Exclude<Waits, "dwell">, number> = {
  heat: 1200,
  still: 600,
  homing: 180,
  probing: 900,
  tuning: 2400,
  start: 30,
  person: 86_400,
};
/** Moves are planned ahead: an `ok` may wait for the slowest of so many before it. */
const LOOK_AHEAD = 32;
/** Accelerating makes a move longer than its length by its feed. */
const SLACK = 1.5;

/** What a line is waited for. */
export interface Patience {
  /** May be silent for so long beyond the usual, s. */
  extraS: number;
  /** What it waits for; null for a line that is done once it is understood. */
  waits: Waits | null;
  /** Time of its own motion, s. */
  moveS: number;
}

const none: Patience = { extraS: 0, waits: null, moveS: 0 };

/** How long a line may take for a machine in this state. */
export function patienceFor(text: string, state: MachineState): Patience {
  if (readBlank(text)) return none;
  let patience = none;
  forEachTalked(text, (command, words) => {
    if (!command) return;
    let { extraS, waits, moveS } = patience;
    if (command.waits === "dwell") {
      const seconds = words.has("S") ? words.value("S") : words.value("P") / 1000;
      extraS += seconds > 0 ? Math.min(seconds, 86_400) : 0;
      waits = "dwell";
    } else if (command.waits) {
      extraS += longestS[command.waits];
      waits = command.waits;
    } else if (command.moves === "straight" || command.moves === "clockwise" || command.moves === "counter-clockwise") {
      const to = targetOf(state, words);
      const feed = words.value("F") > 0 ? words.value("F") * state.unitMm : state.feedMmMin;
      const across = Math.hypot(to.x - state.x, to.y - state.y, to.z - state.z) || Math.abs(to.e - state.e);
      const radius = Math.hypot(words.value("I") || 0, words.value("J") || 0) * state.unitMm;
      const mm = command.moves === "straight" ? across : across + 2 * Math.PI * radius;
      moveS += Math.min(3600, (mm / Math.max(feed, 1)) * 60) || 0;
    }
    patience = { extraS, waits, moveS };
  });
  return patience;
}

/** The times of the last moves: what a printer that plans ahead may still have before it. */
export class MovesAhead {
  private readonly seconds = new Float64Array(LOOK_AHEAD);
  private at = 0;

  add(moveS: number): void {
    if (moveS === 0) return;
    this.seconds[this.at] = moveS;
    this.at = (this.at + 1) % LOOK_AHEAD;
  }

  /** The slowest of them, with room for accelerating, s. */
  slowestS(): number {
    let slowest = 0;
    for (const seconds of this.seconds) if (seconds > slowest) slowest = seconds;
    return slowest * SLACK;
  }

  forget(): void {
    this.seconds.fill(0);
  }
}

/** Whether temperatures that come meanwhile are a sign of life: only a printer that waits for heat tells them of itself. */
export function heatIsLife({ waits }: Patience): boolean {
  return waits === "heat" || waits === "tuning";
}

/** Whether any text is: probing and tuning tell of each step. */
export function textIsLife({ waits }: Patience): boolean {
  return waits === "probing" || waits === "tuning" || waits === "homing";
}
