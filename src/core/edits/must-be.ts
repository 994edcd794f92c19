/** Figures of a file held against what they should be. */
import { plainNumber } from "../units";

/** A sentence where a figure is not what it should be, within a share of it; none where it is. */
export function mustBe(what: string, got: number, wanted: number, within: number, unit: string): string[] {
  return Math.abs(got - wanted) <= Math.abs(wanted) * within + 1e-6
    ? []
    : [`${what} should be ${plainNumber(wanted, 2)} ${unit} and is ${plainNumber(got, 2)} ${unit}.`];
}
