/** Reading a simulated piece as a person would: whole marks with the noise of an eye, lengths with that of a calliper. */
import type { CriterionKey } from "../../reading";
import { HIGHEST_MARK, Mark } from "../../reading/criterion";
import type { Said } from "../../reading/lay-over";
import { USUAL_SPREAD } from "../../reading/belief/eyes";
import { clamp, roundTo } from "../../units";
import { Noise } from "../noise";
import type { SimulatedPiece } from "./piece";

/** Spread of a calliper on plastic, mm. Common practice, no source. */
const CALLIPER_SIGMA_MM = 0.012;

/** @param what what the kind measures, and how often a band @param seed another one is another look */
export function readPiece(
  { units }: SimulatedPiece,
  what: { key: string; usualCount: number } | undefined,
  seed: number,
): Said {
  const noise = new Noise(seed);
  noise.even();
  return {
    marks: units.flatMap(({ band, marks }) =>
      (Object.entries(marks) as [CriterionKey, number][]).map(([criterion, mark]) => ({
        band,
        criterion,
        mark: clamp(Math.round(mark + noise.bell(USUAL_SPREAD)), 0, HIGHEST_MARK) as Mark,
      })),
    ),
    measures: what
      ? units.flatMap(({ band, lengthMm }) =>
          lengthMm === undefined
            ? []
            : [
                {
                  band,
                  what: what.key,
                  valuesMm: Array.from({ length: what.usualCount }, () =>
                    Math.max(0.01, roundTo(lengthMm + noise.bell(CALLIPER_SIGMA_MM), 2)),
                  ),
                },
              ],
        )
      : [],
  };
}
