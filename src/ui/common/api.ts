/** The page's side of the HTTP interface. */
import type { Finding } from "@/core/findings/finding";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import type { Trial } from "@/core/trials/trial";

export type Saved<T> = T & { id: number; version: number };
export type SavedPrinter = Saved<Printer>;
export type SavedSpool = Saved<Spool>;

/** An answer that is an error, with the sentence to show. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field?: string,
    readonly findings?: Finding[],
    /** The record as it stands, where somebody else has changed it. */
    readonly current?: unknown,
  ) {
    super(message);
  }
}

interface ErrorBody {
  error?: { message?: string; field?: string; findings?: Finding[]; current?: unknown };
}

/** Turns an answer's text into its JSON, or throws its error. */
export function readAnswer<T>(status: number, text: string): T {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new ApiError(status, "The answer can't be read. Is Cuchara still running?");
  }
  if (status >= 200 && status < 300) return body as T;
  const { error } = body as ErrorBody;
  const message = error?.message ?? `The request failed (${status}).`;
  throw new ApiError(status, message, error?.field, error?.findings, error?.current);
}

async function ask<T>(method: string, path: string, body?: unknown, leaving = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? undefined : { "Content-Type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
      // Goes out even when the page is gone.
      keepalive: leaving,
    });
  } catch {
    throw new ApiError(0, "Cuchara doesn't answer. Is it still running?");
  }
  return readAnswer<T>(response.status, await response.text());
}

export const api = {
  get: <T>(path: string) => ask<T>("GET", path),
  post: <T>(path: string, body?: unknown) => ask<T>("POST", path, body ?? {}),
  /** `leaving`: the page goes away, and the request shall reach the server all the same. */
  put: <T>(path: string, body: unknown, leaving = false) => ask<T>("PUT", path, body, leaving),
  remove: <T>(path: string) => ask<T>("DELETE", path),
  /** Sends a file as it is. */
  putBytes: async <T>(path: string, bytes: Blob): Promise<T> => {
    const response = await fetch(`/api${path}`, { method: "PUT", body: bytes });
    return readAnswer<T>(response.status, await response.text());
  },
};

export interface Bench {
  printerId: number | null;
  spoolId: number | null;
}

/** A trial with the count of its changes. */
export type StoredTrial = Saved<Trial>;

export type { KeptValue } from "@/core/trials/kept";
