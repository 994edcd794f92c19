/** How each edit is said. A new one is one file and one line here; a plan and lines taken out have places of their own. */
import type { Edit } from "@/core/edits";
import { bridgesSentence } from "./bridges";
import { displaySentence } from "./display";
import { fanSentence } from "./fan";
import { findSentence } from "./find";
import { moveSentence } from "./move";
import { outerWallsSentence } from "./outer-walls";
import { pauseSentence } from "./pause";
import { scaleFlowSentence, scaleSpeedSentence } from "./scale";
import type { Sentence } from "./sentence";
import { startEndSentence } from "./start-end";
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
  "scale-speed": scaleSpeedSentence,
  "scale-flow": scaleFlowSentence,
  bridges: bridgesSentence,
  "outer-walls": outerWallsSentence,
  "start-end": startEndSentence,
};

export const saidKinds = Object.keys(sentences) as SaidKind[];

/** The sentence of a kind; typed as the general contract. */
export function sentenceFor(kind: SaidKind): Sentence<SaidKind> {
  return sentences[kind] as unknown as Sentence<SaidKind>;
}

export const isSaid = (edit: Edit): edit is Extract<Edit, { kind: SaidKind }> => edit.kind in sentences;

/** What stands over an edit's column. */
export function shortOf(edit: Edit): string {
  if (edit.kind === "height-plan") return "plan";
  if (edit.kind === "lift-out") return "taken out";
  return sentenceFor(edit.kind).short(edit);
}
