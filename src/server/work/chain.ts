/** The rounds of one question: from the first trial down to the last that goes on from it. */
import type { ChainRound } from "@/core/trials/chain";
import { soughtKey, unitsOf } from "@/core/trials/run";
import { printers } from "../db/printers";
import { runs } from "../db/runs";
import { StoredTrial, trials } from "../db/trials";
import { storedVerdict } from "./runs";

/** More rounds than anybody asks; a circle in old data ends here, too. */
const MOST_ROUNDS = 50;

export async function chainOf(trial: StoredTrial): Promise<ChainRound[]> {
  let first = trial;
  for (let i = 0; i < MOST_ROUNDS && first.from; i++) {
    const before = trials.get(first.from);
    if (!before) break;
    first = before;
  }
  const chain: StoredTrial[] = [];
  const waiting = [first];
  while (waiting.length > 0 && chain.length < MOST_ROUNDS) {
    const next = waiting.shift()!;
    if (chain.some(({ id }) => id === next.id)) continue;
    chain.push(next);
    waiting.push(...trials.goingOnFrom(next.id));
  }
  return Promise.all(chain.map(roundOf));
}

async function roundOf(trial: StoredTrial): Promise<ChainRound> {
  const { id: trialId, name, round = 1 } = trial;
  const [run] = runs.ofTrial(trialId);
  const printer = run?.printer ?? printers.get(trial.printerId, true)!;
  const asked = run?.trial ?? trial;
  const setting = soughtKey(asked, printer);
  const units = unitsOf({ trial: asked, printer, reachedMm: null, told: [], byHand: [] });
  const values = [...new Set(units.map(({ value }) => value).filter(Number.isFinite))].sort((a, b) => a - b);
  const verdict = run ? await storedVerdict(run, {}) : null;
  const isSaid = verdict && verdict.value !== null && verdict.advice !== "mark-more";
  return { trialId, name, round, setting, values, found: isSaid ? verdict : null };
}
