import { rampColour } from "./tokens";

/** Colour of each value: the ramp over the plan's own range. */
export function valueColours(values: (number | undefined)[]): string[] {
  const known = values.filter((value) => value !== undefined);
  const low = known.reduce((least, value) => Math.min(least, value), Infinity);
  const high = known.reduce((most, value) => Math.max(most, value), -Infinity);
  return values.map((value) =>
    value === undefined ? "#8A7A86" : rampColour(high > low ? (value - low) / (high - low) : 1),
  );
}
