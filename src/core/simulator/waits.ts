/** What the simulated printer waits for before it says `ok`. */
import type { Wait } from "./parts";

export const untilStill: Wait = { over: ({ extrusion }) => extrusion.planner.empty };

/** Stands still for so long once everything planned is done. */
export function stillFor(seconds: number): Wait {
  let until: number | null = null;
  return {
    over({ extrusion, nowS }) {
      if (!extrusion.planner.empty) return false;
      until ??= nowS + seconds;
      return nowS >= until - 1e-9;
    },
  };
}
