/** A figure in a record of the shelf, held between what can be. */
import { z } from "zod";

export const figure = (low: number, high: number, what: string) =>
  z
    .number({ error: `${what} must be a number` })
    .min(low, { error: `${what} must be at least ${low}` })
    .max(high, { error: `${what} must be at most ${high}` });
