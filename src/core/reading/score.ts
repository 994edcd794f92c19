/** Marks of several readers → one score a band, and how far such a score can be trusted. */
import { Mark, Use } from "./criterion";
import { criterionFor, CriterionKey } from ".";
import type { Aspect } from "./criterion";
import { USUAL_SPREAD } from "./belief/eyes";

/** What one reader says of one band in one respect; null where it cannot be told. */
export interface GivenMark {
  /** From 1. */
  band: number;
  criterion: CriterionKey;
  mark: Mark | null;
}

/** Shares a person gives to looks, strength or single criteria; 1 where nothing is said. `speed` moves the bar of `most`. */
export type Weights = Partial<Record<Aspect | "speed" | CriterionKey, number>>;

/** A band as it stands on the piece. */
export interface BandOnPiece {
  /** From 1. */
  band: number;
  value: number;
  /** Printed, and settled: only then it says anything about its value. */
  counts: boolean;
  /** The second value it was printed with, where the piece is a field of two. */
  along?: number;
  /** How wide or thick it was asked to be, mm, where every one on the piece is asked for another. */
  wantedMm?: number;
}

export interface ScoredBand extends BandOnPiece {
  /** Weighted mean of all marks, 0 to 4; null where there is none. */
  score: number | null;
  /** Standard deviation of the score: of an eye, less for more readers and more criteria. */
  spread: number;
}

/** The share of a use, with what the person cares for. */
export function weightOf({ key, weight }: Use<CriterionKey>, weights: Weights): number {
  return Math.max(0, weight * (weights[key] ?? 1) * (weights[criterionFor(key).aspect] ?? 1));
}

/** Scores of all bands from the marks of all readers, each reader counting alike. */
export function scoreBands(
  bands: readonly BandOnPiece[],
  readers: readonly (readonly GivenMark[])[],
  uses: readonly Use<CriterionKey>[],
  weights: Weights,
): ScoredBand[] {
  const means = meanMarks(readers);
  const eye = eyeSpread(readers);
  return bands.map((band) => {
    let sum = 0;
    let all = 0;
    let squares = 0;
    for (const use of uses) {
      const found = means.get(`${band.band} ${use.key}`);
      const weight = weightOf(use, weights);
      if (!found || weight === 0) continue;
      sum += weight * found.mean;
      all += weight;
      squares += (weight * weight) / found.count;
    }
    return {
      ...band,
      score: all > 0 ? sum / all : null,
      spread: all > 0 ? (eye * Math.sqrt(squares)) / all : eye,
    };
  });
}

interface MeanMark {
  mean: number;
  count: number;
}

function meanMarks(readers: readonly (readonly GivenMark[])[]): Map<string, MeanMark> {
  const means = new Map<string, MeanMark>();
  for (const marks of readers) {
    for (const { band, criterion, mark } of marks) {
      if (mark === null) continue;
      const key = `${band} ${criterion}`;
      const before = means.get(key) ?? { mean: 0, count: 0 };
      const count = before.count + 1;
      means.set(key, { mean: before.mean + (mark - before.mean) / count, count });
    }
  }
  return means;
}

/** How far readers differ where several marked the same; never taken for less than one eye differs from itself. */
function eyeSpread(readers: readonly (readonly GivenMark[])[]): number {
  if (readers.length < 2) return USUAL_SPREAD;
  const means = meanMarks(readers);
  let squares = 0;
  let freedom = 0;
  for (const { count } of means.values()) if (count > 1) freedom += count - 1;
  for (const marks of readers) {
    for (const { band, criterion, mark } of marks) {
      const found = means.get(`${band} ${criterion}`);
      if (mark !== null && found && found.count > 1) squares += (mark - found.mean) ** 2;
    }
  }
  return freedom > 0 ? Math.max(USUAL_SPREAD, Math.sqrt(squares / freedom)) : USUAL_SPREAD;
}
