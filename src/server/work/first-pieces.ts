/** The first rounds of a pair: how their pieces look, and what they take. Building them all takes seconds, so that the answers are kept. */
import { roadKindKeys } from "@/core/trials";
import type { Effort, FirstPiece } from "@/core/trials/effort";
import { firstPiecesKept } from "../db/thumbnails";
import { runTask } from "../tasks/pool";
import { madeOf } from "./made-of";
import { remembered } from "./remembered";
import { basisOf, checkPair } from "./trials";

const MOST_ANSWERS = 20;
const answers = remembered<FirstPiece[]>(MOST_ANSWERS);

/** The piece of every kind's first round for a pair, as it would be asked; refused if one of the two is not on the shelf. */
export function firstPiecesFor(printerId: number, spoolId: number): Promise<FirstPiece[]> {
  checkPair(printerId, spoolId);
  const basis = basisOf({ printerId, spoolId });
  return answers(basis, async () => {
    const of = madeOf(basis);
    const kept = firstPiecesKept.get(printerId, spoolId, of);
    if (kept !== null) return JSON.parse(kept) as FirstPiece[];
    const pieces = await runTask("firstPieces", basis);
    firstPiecesKept.put(printerId, spoolId, of, JSON.stringify(pieces));
    return pieces;
  });
}

/** Time and material of the first round of every question on the road of a pair. */
export async function effortsFor(printerId: number, spoolId: number): Promise<Effort[]> {
  const pieces = await firstPiecesFor(printerId, spoolId);
  return pieces
    .filter(({ kind }) => roadKindKeys.includes(kind))
    .map(({ kind, seconds, massG }) => ({ kind, seconds, massG }));
}
