/** What the first rounds of a pair take. Building them all takes a second or two, so that the answers are kept. */
import type { Effort } from "@/core/trials/effort";
import { keptSettings } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { runTask } from "../tasks/pool";
import { checkPair } from "./trials";

const MOST_ANSWERS = 20;
const answers = new Map<string, Promise<Effort[]>>();

/** Time and material of every kind's first round for a pair; refused if one of the two is not on the shelf. */
export function effortsFor(printerId: number, spoolId: number): Promise<Effort[]> {
  checkPair(printerId, spoolId);
  const input = {
    printer: printers.get(printerId)!,
    spool: spools.get(spoolId)!,
    kept: keptSettings(printerId, spoolId),
  };
  const key = JSON.stringify(input);
  const known = answers.get(key);
  if (known) return known;
  const answer = runTask("efforts", input);
  answers.set(key, answer);
  // What went wrong is tried again next time.
  answer.catch(() => answers.delete(key));
  if (answers.size > MOST_ANSWERS) answers.delete(answers.keys().next().value!);
  return answer;
}
