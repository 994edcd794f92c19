import type { Effort } from "@/core/trials/effort";
import { plainNumber, sayDuration } from "@/core/units";

/** Time and material of some prints together: `6 h 10 min and 77 g`. */
export function sayEffort(efforts: readonly Pick<Effort, "seconds" | "massG">[]): string {
  const seconds = efforts.reduce((sum, effort) => sum + effort.seconds, 0);
  const massG = efforts.reduce((sum, effort) => sum + effort.massG, 0);
  return `${sayDuration(seconds)} and ${plainNumber(massG, massG < 10 ? 1 : 0)} g`;
}
