/** What is found on a piece, and what it is found from. */
import type { CriterionKey } from ".";

export type Advice = "keep" | "narrow" | "higher" | "lower" | "mark-more";

/** Lengths measured on one band, mm. */
export interface Measured {
  band: number;
  what: string;
  valuesMm: number[];
}

/** A question somebody could answer next. */
export interface Asking {
  /** From 1. */
  band: number;
  criterion: CriterionKey;
}

/** A place that looks good besides. */
export interface Other {
  value: number;
  fromValue: number;
  toValue: number;
  /** How likely the best lies there, 0 to 1. */
  share: number;
}

/** An answer, unrounded. */
export interface Found {
  value: number;
  /** The best lies between these in 9 of 10. */
  fromValue: number;
  toValue: number;
  /** The chance that the best lies between two values. */
  chanceBetween(from: number, to: number): number;
  /** The chance that it lies below the lowest value that was tried, and above the highest. */
  chanceBelow: number;
  chanceAbove: number;
  why: string;
  advice: Advice;
  tellsMost: Asking | null;
  others: Other[];
  /** The score along the values that were tried, 0 to 4: its middle, and where it lies in 9 of 10. */
  curve: { value: number; low: number; middle: number; high: number }[];
}
