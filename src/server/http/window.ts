/** Whole figures in a request's query: a window of a list, say. */
import { Refused } from "../refused";

/** A whole number from `low` to `high`; what is not said is `otherwise`. */
export function wholeOf(
  request: Request,
  name: string,
  { low, high, otherwise }: { low: number; high: number; otherwise: number },
): number {
  const text = new URL(request.url).searchParams.get(name);
  if (text === null) return otherwise;
  const value = Number(text);
  if (!/^\d+$/.test(text) || value < low || value > high) {
    throw new Refused("invalid", `${name} is a whole number from ${low} to ${high}.`, { field: name });
  }
  return value;
}

/** A window: from where (0), and how many. */
export const windowOf = (request: Request, most: number) => ({
  from: wholeOf(request, "from", { low: 0, high: 1e9, otherwise: 0 }),
  count: wholeOf(request, "count", { low: 1, high: most, otherwise: Math.min(200, most) }),
});

/** `edited=1`: with the edits; else as the file came. */
export const isEditedAsked = (request: Request) => new URL(request.url).searchParams.get("edited") === "1";
