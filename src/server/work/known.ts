/** What this bench knows altogether: everything that is kept, of the printers and spools that are on the shelf. */
import { Known, knownOf } from "@/core/values/known";
import { kept } from "../db/kept";
import { printers } from "../db/printers";
import { spools } from "../db/spools";
import { byId } from "./expected";

export const knownOnBench = (): Known[] =>
  knownOf(kept.all(), kept.everything(), { printers: byId(printers.list()), spools: byId(spools.list()) });
