/** The page's side of the HTTP interface. */
import type { Finding } from "@/core/findings/finding";
import type { SettingKey } from "@/core/settings";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";
import type { Trial } from "@/core/trials/trial";

export type Saved<T> = T & { id: number };
export type SavedPrinter = Saved<Printer>;
export type SavedSpool = Saved<Spool>;

/** An answer that is an error, with the sentence to show. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field?: string,
    readonly findings?: Finding[],
  ) {
    super(message);
  }
}

interface ErrorBody {
  error?: { message?: string; field?: string; findings?: Finding[] };
}

/** Turns an answer's text into its JSON, or throws its error. */
export function readAnswer<T>(status: number, text: string): T {
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new ApiError(status, "The answer cannot be read. Is Cuchara still running?");
  }
  if (status >= 200 && status < 300) return body as T;
  const { error } = body as ErrorBody;
  throw new ApiError(status, error?.message ?? `The request failed (${status}).`, error?.field, error?.findings);
}

async function ask<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? undefined : { "Content-Type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new ApiError(0, "Cuchara does not answer. Is it still running?");
  }
  return readAnswer<T>(response.status, await response.text());
}

export const api = {
  get: <T>(path: string) => ask<T>("GET", path),
  post: <T>(path: string, body?: unknown) => ask<T>("POST", path, body ?? {}),
  put: <T>(path: string, body: unknown) => ask<T>("PUT", path, body),
  remove: <T>(path: string) => ask<T>("DELETE", path),
};

export interface Bench {
  printerId: number | null;
  spoolId: number | null;
}

export type ListedTrial = Trial;

/** A value kept for a printer and a spool. */
export interface KeptValue {
  id: number;
  setting: SettingKey;
  value: number;
  trialId: number | null;
  keptAt: string;
}
