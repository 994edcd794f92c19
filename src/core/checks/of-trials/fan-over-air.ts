import type { Check } from "../check";

/** What bridges get for a fan, where it is more than the rest: said, so that nobody reads their underside at another value than he thinks. */
export const fanOverAir: Check = {
  key: "fan-over-air",
  passes: ({ trial }) => (trial.overAir === null ? null : `Bridges are cooled more: ${trial.overAir}.`),
  run: () => [],
};
