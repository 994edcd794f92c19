/** What a rule finds, and what it finds it from. */

export type Advice = "keep" | "narrow" | "higher" | "lower" | "mark-more";

/** Lengths measured on one band, mm. */
export interface Measured {
  band: number;
  what: string;
  valuesMm: number[];
}

/** A rule's answer, unrounded. */
export interface Found {
  value: number;
  fromValue: number;
  toValue: number;
  /** 0, nothing is known, to 1. */
  sure: number;
  why: string;
  advice: Advice;
}
