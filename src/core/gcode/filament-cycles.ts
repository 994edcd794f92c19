/**
 * Follows the filament: which lines draw it back, and which give back what was drawn. A cycle is what lies between laying and laying
 * again: drawing back standing or while it moves, names given to E in between, and giving back, with or without a little more.
 */
import { figureOf } from "./line-change";
import type { LineChange, MovingLine } from "./moving-lines";

/** What is drawn back further than this is no retraction but a change of filament, mm. Common practice, no source. */
export const LONGEST_RETRACTION_MM = 20;
/** What is given back may differ by so much from what was drawn (restart extra), mm. Common practice, no source. */
const MOST_EXTRA_MM = 1;

export interface FilamentCycle {
  /** Every line of it, in order. */
  lines: MovingLine[];
  /** Drawn back altogether, mm. */
  drawnMm: number;
  /** The lines to change: they stand still, and move the most. */
  draw: MovingLine;
  restore: MovingLine;
}

/** Why lines are left as they are. */
export type LeftBecause =
  "never given back" | "changes filament" | "across a tool change" | "only while moving" | "names every axis";

export interface FilamentCycles {
  cycles: FilamentCycle[];
  left: { because: LeftBecause; line: MovingLine }[];
}

/** The cycles of one tool. */
export function filamentCycles(lines: readonly MovingLine[], tool: number): FilamentCycles {
  const found: FilamentCycles = { cycles: [], left: [] };
  let open: MovingLine[] = [];
  let restoring = false;
  let crossesTool = false;
  const close = (goesOn: boolean) => {
    if (open.some(({ fedMm }) => fedMm < 0)) {
      const judged = judge(open, restoring, crossesTool);
      if (typeof judged === "object") found.cycles.push(judged);
      // What is drawn back at the very end need not come back.
      else if (goesOn || judged !== "never given back") found.left.push({ because: judged, line: open[0] });
    }
    open = [];
    restoring = crossesTool = false;
  };
  for (const line of lines) {
    if (line.laidSince && open.length > 0) close(true);
    if (line.tool !== tool) {
      if (open.length > 0) crossesTool = true;
      continue;
    }
    switch (line.kind) {
      case "draw":
      case "wipe":
        if (restoring) close(true);
        open.push(line);
        break;
      case "restore":
      case "restoring-travel":
        // Without anything drawn it primes: that is none of a retraction's business.
        if (open.length > 0) {
          restoring = true;
          open.push(line);
        }
        break;
      case "tool":
        if (open.length > 0) crossesTool = true;
        break;
      case "names":
      case "shifts":
        if (open.length > 0) open.push(line);
        break;
      case "heir":
      case "travel":
        if (open.length > 0) open.push(line);
    }
  }
  close(false);
  return found;
}

function judge(lines: MovingLine[], restoring: boolean, crossesTool: boolean): FilamentCycle | LeftBecause {
  const sum = (kinds: string[]) =>
    lines.reduce((total, { kind, fedMm }) => total + (kinds.includes(kind) ? Math.abs(fedMm) : 0), 0);
  const drawnMm = sum(["draw", "wipe"]);
  const restoredMm = sum(["restore", "restoring-travel"]);
  if (crossesTool) return "across a tool change";
  if (drawnMm > LONGEST_RETRACTION_MM) return "changes filament";
  if (!restoring || Math.abs(restoredMm - drawnMm) > MOST_EXTRA_MM) return "never given back";
  const draw = largest(lines, "draw");
  const restore = largest(lines, "restore");
  if (!draw || !restore) return "only while moving";
  if (lines.some(({ namesAll }) => namesAll)) return "names every axis";
  return { lines, drawnMm, draw, restore };
}

function largest(lines: MovingLine[], kind: MovingLine["kind"]): MovingLine | null {
  let best: MovingLine | null = null;
  for (const line of lines) {
    if (line.kind === kind && (!best || Math.abs(line.fedMm) > Math.abs(best.fedMm))) best = line;
  }
  return best;
}

/**
 * The words of a cycle's lines so that it draws back `lengthMm`; null if more than that is drawn back while it moves. Laws: what is
 * given back beyond what was drawn stays as it was, and behind the cycle E stands where it stood.
 */
export function changeCycle({ lines, draw, restore, drawnMm }: FilamentCycle, lengthMm: number): LineChange[] | null {
  const moreMm = lengthMm - drawnMm;
  if (Math.abs(moreMm) < 1e-6) return [];
  if (-draw.fedMm + moreMm < -1e-9 || restore.fedMm + moreMm < -1e-9) return null;
  const changes: LineChange[] = [];
  // By how much E stands lower than the file's own, mm.
  let lowerMm = 0;
  for (const line of lines) {
    const before = lowerMm;
    if (line === draw) lowerMm += moreMm;
    if (line === restore) lowerMm -= moreMm;
    const shiftMm = line.absolute || line.kind === "names" ? -lowerMm : before - lowerMm;
    if (Math.abs(shiftMm) < 1e-9) continue;
    const written = figureOf(line.text, "E");
    if (written !== null) changes.push({ line, e: written + shiftMm / line.unitMm });
  }
  return changes;
}
