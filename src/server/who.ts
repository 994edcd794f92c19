/**
 * Who may do what. Every caller has one rank, every route asks for one, and a rank has all that those before it have. This machine itself
 * is the bench; a device of the home network is what it was let in as; everybody else is a stranger.
 */

/** From least to most. */
export const ranks = ["stranger", "reader", "marker", "actor", "bench"] as const;
export type Rank = (typeof ranks)[number];

/** What a device can be let in for: read and mark; link, move and heat printers as well; all that the bench may. */
export const rights = ["mark", "act", "all"] as const;
export type Right = (typeof rights)[number];

/** The rank a device's right gives it. */
export const rankOfRight: Record<Right, Rank> = { mark: "marker", act: "actor", all: "bench" };

/**
 * The request header that carries the caller's rank from the front to a route. The front sets it on every request, whatever came in under
 * this name; a request that did not pass the front is a stranger's.
 */
export const RANK_HEADER = "x-cuchara-rank";
/** Likewise who exactly it is: what is shared out is shared out by caller. */
export const CALLER_HEADER = "x-cuchara-caller";

/** The rank in a header's value. */
export function rankIn(header: string | null | undefined): Rank {
  return ranks.find((rank) => rank === header) ?? "stranger";
}

const canBeAllowed = "The bench can allow it: Shelf, This program.";

/** Why a caller may not do what asks for a rank; null if it may. */
export function refuseRank(caller: Rank, asked: Rank): string | null {
  if (ranks.indexOf(caller) >= ranks.indexOf(asked)) return null;
  if (caller === "stranger") {
    return "This device has not been let in. Open /let-in on it and type the code that the bench shows.";
  }
  if (asked === "actor") return `This device may read and mark, not move or heat a printer. ${canBeAllowed}`;
  return `This device may not change what is kept at the bench. ${canBeAllowed}`;
}
