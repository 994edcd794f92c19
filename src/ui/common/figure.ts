/** A typed number with its unit, read. */
import { plainNumber } from "@/core/units";

/** What the text means, or why it does not: accepts `215`, `215 °C`, `0,2`. */
export function parseFigure(
  text: string,
  low: number,
  high: number,
  unit: string,
): { value: number } | { wrong: string } {
  const bare = text.trim().replace(unit, "").trim().replace(",", ".");
  if (bare === "") return { wrong: "Type a number" };
  const value = Number(bare);
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(bare) || !Number.isFinite(value))
    return { wrong: `“${text.trim()}” is not a number` };
  if (value < low) return { wrong: `At least ${plainNumber(low)} ${unit}` };
  if (value > high) return { wrong: `At most ${plainNumber(high)} ${unit}` };
  return { value };
}
