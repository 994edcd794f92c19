/** Stores a record of the shelf: what was changed, over what somebody else may have changed meanwhile. */
import { changedFields, merge } from "@/core/merge";
import { api, ApiError, Saved } from "../common/api";

/** How a value is shown where two people have set it. */
const say = (value: unknown) => {
  const text = String(value);
  return text.length > 40 || text.includes("\n") ? "something else" : `“${text}”`;
};

/**
 * Stores `record` where `seen` was seen. What others changed is kept where it does not contradict; where it does, nothing is stored, and
 * `onSeen` gets what stands there now, so that storing once more means to overwrite it. Throws the server's sentence.
 */
export async function storeRecord<T extends object>(
  path: string,
  seen: Saved<T>,
  record: T,
  onSeen: (now: Saved<T>) => void,
): Promise<void> {
  const put = (changes: Partial<T>, version: number) => api.put(`${path}/${seen.id}`, { ...changes, version });
  try {
    await put(changedFields(seen as T, record), seen.version);
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 409 || error.current === undefined) throw error;
    const theirs = error.current as Saved<T>;
    const { changes, conflicts } = merge<T>(seen, record, theirs);
    if (conflicts.length === 0) return void (await put(changes, theirs.version));
    onSeen(theirs);
    const [field] = conflicts;
    throw new ApiError(
      409,
      `Another page has set this to ${say(theirs[field])} meanwhile. Save once more to keep yours, or type theirs.`,
      String(field),
    );
  }
}
