/** What is shown of trials, worked out ahead of their pages and kept for as long as nothing of it changes. */
import { createHash } from "node:crypto";
import type { Trial } from "@/core/trials/trial";
import type { PlainView } from "@/core/trials/view";
import { log } from "../log";
import { runTask } from "../tasks/pool";
import { inputFor } from "./trials";

/** Views kept; the one asked for longest ago goes. */
const MOST_KEPT = 60;
/** A page waits no longer than this for its view; it works it out itself then. */
const WAIT_MS = 700;
/** A view that is larger comes from the page's own worker. */
const LARGEST_CHARACTERS = 200_000;

// Kept per process: pages and route handlers are loaded apart from one another.
const shared = globalThis as { cucharaViews?: Map<string, Promise<PlainView | null>> };
const kept = () => (shared.cucharaViews ??= new Map());

/** The view of a trial; null where it is not there soon enough, is too large, or cannot be made. */
export async function viewAhead(trial: Trial): Promise<PlainView | null> {
  let view: Promise<PlainView | null>;
  try {
    view = viewFor(trial);
  } catch {
    return null;
  }
  return Promise.race([view, new Promise<null>((resolve) => setTimeout(() => resolve(null), WAIT_MS).unref())]);
}

function viewFor(trial: Trial): Promise<PlainView | null> {
  const input = inputFor(trial);
  const key = createHash("sha256").update(JSON.stringify(input)).digest("base64url");
  const known = kept().get(key);
  kept().delete(key);
  const view = known ?? made(input);
  kept().set(key, view);
  const [oldest] = kept().keys();
  if (kept().size > MOST_KEPT) kept().delete(oldest);
  return view;
}

async function made(input: ReturnType<typeof inputFor>): Promise<PlainView | null> {
  try {
    const view = await runTask("viewTrial", input);
    return JSON.stringify(view).length > LARGEST_CHARACTERS ? null : view;
  } catch (error) {
    log().warn({ err: error, trial: input.trial.id }, "a view was not made ahead");
    return null;
  }
}
