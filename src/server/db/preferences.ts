/** What the user has chosen for the program as a whole. */
import { z } from "zod";
import { tellChange } from "../changes";
import { database } from "./connection";

export const preferencesSchema = z.object({
  /** Talk older than this goes. */
  talkDays: z
    .int({ error: "Days are a whole number" })
    .min(1, "The console log is kept for at least a day")
    .max(3650, "The console log is kept for at most ten years"),
  /** Kept values older than this are to be asked again. */
  staleDays: z
    .int({ error: "Days are a whole number" })
    .min(1, "A kept value holds for at least a day")
    .max(3650, "A kept value holds for at most ten years"),
  /** What earlier spools wanted is expected of new ones. */
  expectsAlike: z.boolean({ error: "It is true or false whether earlier spools lead to expect anything" }),
  /** The data are the demo's. */
  isDemo: z.boolean({ error: "It is true or false whether this is the demo" }),
});

export type Preferences = z.infer<typeof preferencesSchema>;

const usual: Preferences = { talkDays: 60, staleDays: 365, expectsAlike: true, isDemo: false };

export function readPreferences(): Preferences {
  const rows = database().prepare("SELECT key, value FROM preferences").all() as { key: string; value: string }[];
  const stored = Object.fromEntries(rows.map(({ key, value }) => [key, JSON.parse(value) as unknown]));
  const parsed = preferencesSchema.partial().safeParse(stored);
  return { ...usual, ...(parsed.success ? parsed.data : {}) };
}

/** Changes what is named and keeps the rest. */
export function writePreferences(changes: Partial<Preferences>): Preferences {
  const put = database().prepare(
    "INSERT INTO preferences (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
  );
  for (const [key, value] of Object.entries(changes)) put.run(key, JSON.stringify(value));
  tellChange("preferences", 1);
  return readPreferences();
}
