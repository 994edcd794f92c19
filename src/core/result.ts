/**
 * Errors that a user can cause are values: a sentence that says what, where and how to mend.
 */

export interface Refusal {
  ok: false;
  message: string;
  /** The field the message belongs to, as a path (`plan.bands.2.heightMm`). */
  field?: string;
}

export interface Success<T> {
  ok: true;
  value: T;
}

export type Result<T> = Success<T> | Refusal;

export function succeed<T>(value: T): Success<T> {
  return { ok: true, value };
}

export function refuse(message: string, field?: string): Refusal {
  return field === undefined ? { ok: false, message } : { ok: false, message, field };
}
