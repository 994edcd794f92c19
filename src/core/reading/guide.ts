/** How a kind of trial is read: what is looked at, and how the answer follows. */
import type { Use } from "./criterion";
import type { CriterionKey } from ".";

/**
 * `best`: where the weighted score is highest. `least`: the lowest value from which on every must is
 * good. `most`: the highest value up to which every must is good. `nominal`: where what is measured is what was wanted.
 * `field`: the least value across that is good, at the value along where that is least. `surface`: the pair of values where the weighted
 * score is highest.
 */
export type Rule = "best" | "least" | "most" | "nominal" | "field" | "surface";

/** Whether a piece is read as a field of two settings. */
export const isOfTwo = (rule: Rule): boolean => rule === "field" || rule === "surface";

export interface ReadingGuide {
  rule: Rule;
  /** Of what is about as good across, the lowest or the highest is wanted. */
  towards?: "low" | "high";
  uses: readonly Use<CriterionKey>[];
  /** What a calliper can say of each band. */
  measure?: Measure;
}

/** A length measured on every band, several times if wanted. */
export interface Measure {
  key: string;
  /**
   * What follows from it: `width` is held against what was wanted, `ripple` tells how fast the frame swings, `sag` counts as the mark of a
   * criterion where nobody gave one.
   */
  tells: "width" | "ripple" | "sag";
  /** `Thickness of the wall` */
  label: string;
  /** How often a band is usually measured. */
  usualCount: number;
}
