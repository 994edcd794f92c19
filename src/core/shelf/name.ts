/** What a name may be: any letters of any script, but nothing that ends a line, turns the text around it, or cannot be stored. */
import { z } from "zod";

// eslint-disable-next-line no-control-regex -- exactly those belong in no name
const notInNames = /[\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069]/g;

/** Text of one line, at most `most` characters. */
export function plainText(what: string, most: number) {
  return z
    .string({ error: `${what} must be text` })
    .trim()
    .max(most, `${what} is longer than ${most} characters`)
    .refine((text) => text.search(notInNames) < 0, `${what} must not hold line breaks or control characters`)
    .refine((text) => text.isWellFormed(), `${what} holds half a letter`);
}

/** A name of `what` (“printer”). */
export function nameSchema(what: string, most = 100) {
  return plainText("The name", most).min(1, `Give the ${what} a name`);
}

/** A name out of a record of the time when every letter was taken. */
export function mendName(name: unknown): unknown {
  return typeof name === "string" ? name.replace(notInNames, " ").toWellFormed() : name;
}
