/** What the first rounds of a pair take. Building them all takes a second or two, so that the answers are kept. */
import type { Effort } from "@/core/trials/effort";
import { runTask } from "../tasks/pool";
import { remembered } from "./remembered";
import { basisOf, checkPair } from "./trials";

const MOST_ANSWERS = 20;
const answers = remembered<Effort[]>(MOST_ANSWERS);

/** Time and material of every kind's first round for a pair, as it would be asked; refused if one of the two is not on the shelf. */
export function effortsFor(printerId: number, spoolId: number): Promise<Effort[]> {
  checkPair(printerId, spoolId);
  const basis = basisOf({ printerId, spoolId });
  return answers(basis, () => runTask("efforts", basis));
}
