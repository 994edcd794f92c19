/** What this bench knows altogether: everything that is kept, of the printers and spools that are on the shelf. Worked out in a worker, and kept. */
import type { Known } from "@/core/values/known";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { runTask } from "../tasks/pool";
import { remembered } from "./remembered";

const answers = remembered<Known[]>(1);

export function knownOnBench(): Promise<Known[]> {
  const input = {
    counting: kept.all(),
    everything: kept.everything(),
    printers: printers.list(),
    spools: spools.list(),
  };
  return answers(input, () => runTask("known", input));
}
