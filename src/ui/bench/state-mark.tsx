import type { QuestionState } from "@/core/trials/bench-row";
import styles from "./bench-page.module.css";

/** Each state in a word or two. */
export const stateWords: Record<QuestionState, string> = {
  never: "never asked",
  planned: "planned",
  printing: "printing",
  waiting: "waits to be read",
  kept: "kept",
  carried: "not tried here",
  stale: "stale",
};

/** How far a step of the road has come, in a word. */
export function StateMark({ state, says }: { state: QuestionState; says?: string }) {
  return (
    <span className={styles.mark} data-state={state}>
      {says ?? stateWords[state]}
    </span>
  );
}
