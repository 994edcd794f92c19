/** Answers of workers that are asked for again and again, kept by all that they follow from. */
import { createHash } from "node:crypto";

/**
 * A memory of so many answers: gives the one that is known for the same input, or makes it. Only digests of inputs are kept, however large
 * those are; what went wrong is tried again next time.
 */
export function remembered<T>(most: number): (input: unknown, make: () => Promise<T>) => Promise<T> {
  const answers = new Map<string, Promise<T>>();
  return (input, make) => {
    const key = createHash("sha256").update(JSON.stringify(input)).digest("base64");
    const known = answers.get(key);
    if (known) return known;
    const answer = make();
    answers.set(key, answer);
    answer.catch(() => answers.delete(key));
    if (answers.size > most) answers.delete(answers.keys().next().value!);
    return answer;
  };
}
