/** One thing that is looked at on a printed piece: a question with five answers in words. */

/** What a person may care more or less about: how it looks, or how it holds. */
export const aspects = ["looks", "strength"] as const;
export type Aspect = (typeof aspects)[number];

/** From 0, useless, to 4, as wanted. */
export type Mark = 0 | 1 | 2 | 3 | 4;

export const MARKS: readonly Mark[] = [4, 3, 2, 1, 0];
export const HIGHEST_MARK = 4;

export interface Criterion {
  /** Over its column: one word. */
  short: string;
  /** `How are the strings between the posts?` */
  question: string;
  /** What the marks 0 to 4 mean, in their order. */
  answers: readonly [string, string, string, string, string];
  aspect: Aspect;
}

/** A criterion as a kind of trial uses it. */
export interface Use<K extends string = string> {
  key: K;
  /** Its share beside the others. */
  weight: number;
  /** Below the bar here, a band is no answer, however good the rest is. */
  must?: boolean;
}
