/**
 * Where a move goes: G0 to G3 after NIST RS274/NGC Interpreter, version 3 (NISTIR 6556), sections 3.5.1 to 3.5.3; E as a further
 * axis is common practice, no source. Reading whole programs does the same in a loop of its own (`gcode/read`), for speed.
 */
import { MachineState } from "./state";
import { Words } from "./words";

/** Follows a straight move; changes `state`. */
export function followStraight(state: MachineState, words: Words): void {
  const to = targetOf(state, words);
  state.x = to.x;
  state.y = to.y;
  state.z = to.z;
  state.e = to.e;
  takeFeed(state, words);
  state.motorsOn = true;
  if (!state.relative) {
    if (words.has("X")) state.knownX = true;
    if (words.has("Y")) state.knownY = true;
    if (words.has("Z")) state.knownZ = true;
  }
}

/** Where a move with these words ends, machine coordinates, mm. */
export function targetOf(state: MachineState, words: Words): { x: number; y: number; z: number; e: number } {
  const { unitMm, relative, relativeE } = state;
  const along = (name: string, now: number, offset: number, counts: boolean) => {
    const value = words.value(name);
    if (Number.isNaN(value)) return now;
    return counts ? now + value * unitMm : value * unitMm + offset;
  };
  return {
    x: along("X", state.x, state.offsetX, relative),
    y: along("Y", state.y, state.offsetY, relative),
    z: along("Z", state.z, state.offsetZ, relative),
    e: along("E", state.e, state.offsetE, relativeE),
  };
}

/** Takes the feed of a move into force. */
export function takeFeed(state: MachineState, words: Words): void {
  const feed = words.value("F");
  if (feed > 0) state.feedMmMin = feed * state.unitMm;
}

/** Follows an arc to its end; changes `state`. Where it runs in between is `gcode/arcs`. */
export const followArc = followStraight;
