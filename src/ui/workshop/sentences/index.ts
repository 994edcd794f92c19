/** How each edit is said. A new one is one file and one line here; a plan and lines taken out have places of their own. */
import type { Edit } from "@/core/edits";
import { displaySentence } from "./display";
import { fanSentence } from "./fan";
import { findSentence } from "./find";
import { moveSentence } from "./move";
import { pauseSentence } from "./pause";
import type { Sentence } from "./sentence";
import { toolsSentence } from "./tools";
import { waitsSentence } from "./waits";

export type SaidKind = Exclude<Edit["kind"], "height-plan" | "lift-out">;

export const sentences: { [K in SaidKind]: Sentence<K> } = {
  fan: fanSentence,
  find: findSentence,
  display: displaySentence,
  waits: waitsSentence,
  pause: pauseSentence,
  move: moveSentence,
  tools: toolsSentence,
};

export const saidKinds = Object.keys(sentences) as SaidKind[];

/** The sentence of a kind; typed as the general contract. */
export function sentenceFor(kind: SaidKind): Sentence<SaidKind> {
  return sentences[kind] as unknown as Sentence<SaidKind>;
}

export const isSaid = (edit: Edit): edit is Extract<Edit, { kind: SaidKind }> => edit.kind in sentences;
