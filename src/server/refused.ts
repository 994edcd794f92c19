/** What the server will not do, as a kind and a sentence. What status a kind gets over HTTP is `http/respond.ts`'s business alone. */
import type { Finding } from "@/core/findings/finding";

/**
 * - `invalid`: what was asked for is wrong in itself, `form` if its form is no JSON
 * - `missing`: there is no such thing (any more)
 * - `conflict`: it cannot be done as things stand now
 * - `too-large`: it passes a stated bound
 * - `unreadable`: it was read and is not what it should be
 * - `harmful`: it would do harm
 * - `busy`: all hands are full; later it will do
 * - `stranger`: who asks is not known here, or may not do that
 * - `unreachable`: the printer cannot be reached
 * - `storage`: the database does not take or give it
 */
export type RefusalKind =
  | "invalid"
  | "form"
  | "missing"
  | "conflict"
  | "too-large"
  | "unreadable"
  | "harmful"
  | "busy"
  | "stranger"
  | "unreachable"
  | "storage";

export interface RefusalDetails {
  /** The field of the request that is meant. */
  field?: string;
  findings?: Finding[];
  /** The record as it stands now, where somebody else has changed it. */
  current?: unknown;
}

/** Thrown by whatever serves a request; its sentence says what, where and how to mend it. */
export class Refused extends Error {
  // Route handlers are bundled apart from one another, each with a class of its own: the name tells it, not the class.
  override readonly name = "Refused";

  constructor(
    readonly kind: RefusalKind,
    message: string,
    readonly details: RefusalDetails = {},
  ) {
    super(message);
  }
}

export function isRefused(error: unknown): error is Refused {
  return error instanceof Error && error.name === "Refused";
}

/** Nothing is there by that name. */
export const missing = (what: string) => new Refused("missing", `${what} It may have been removed.`);
