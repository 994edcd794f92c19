/**
 * What a save is to store. Saving stores everything in force (M500: common practice, no source), whoever set it. So what is stored already
 * is the ground, what was tried on purpose is laid over it, and everything else that differs is a stray: left by a print, by lines typed.
 */
import { isTaken } from "./change";
import type { ValueEntry } from "./reading";

/** A value in force that is not stored and that nobody meant to store. */
export interface Stray {
  id: string;
  inForce: number;
  stored: number;
}

export interface SavePlan {
  /** What is to be stored, by id. */
  meant: Map<string, number>;
  strays: Stray[];
}

/**
 * @param inForce a reading of now
 * @param stored a reading of what is stored; null where that is not known, and then everything in force is meant
 * @param tried changes that were tried and are neither saved nor put back, by id
 * @param kept ids of strays that are to be stored all the same
 */
export function planSave(
  inForce: readonly ValueEntry[],
  stored: readonly ValueEntry[] | null,
  tried: ReadonlyMap<string, number>,
  kept: ReadonlySet<string> = new Set(),
): SavePlan {
  const ground = new Map((stored ?? inForce).map(({ id, value }) => [id, value]));
  const strays: Stray[] = [];
  const meant = new Map(ground);
  for (const { id, value, decimals } of inForce) {
    const wanted = tried.get(id);
    if (wanted !== undefined) {
      meant.set(id, wanted);
      continue;
    }
    const before = ground.get(id);
    if (before === undefined) meant.set(id, value);
    else if (!isTaken(id, before, value, decimals)) {
      strays.push({ id, inForce: value, stored: before });
      if (kept.has(id)) meant.set(id, value);
    }
  }
  return { meant, strays };
}

/** One value of a save: what was meant, and what the printer says it stores. */
export interface SavedValue {
  id: string;
  meant: number;
  /** Null where the printer does not report it any more. */
  stored: number | null;
  same: boolean;
}

/** Holds what is stored against what was meant, value by value. */
export function compareSaved(meant: ReadonlyMap<string, number>, after: readonly ValueEntry[]): SavedValue[] {
  const now = new Map(after.map((entry) => [entry.id, entry]));
  return [...meant].map(([id, value]) => {
    const entry = now.get(id);
    return { id, meant: value, stored: entry?.value ?? null, same: isTaken(id, value, entry?.value, entry?.decimals) };
  });
}
