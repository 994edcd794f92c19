/** What a kind of stroke is: formulas in, points out. */
import { Result, succeed } from "../../result";
import type { Formula } from "../formula";
import type { Path } from "../path";
import type { Scope } from "../scope";
import type { Expr } from "../sheet";

/** Draws the stroke with the figures as they are now. */
export type Draw = (path: Path) => void;

export interface StrokeKind<S> {
  label: string;
  /** @param field where the stroke stands in the sheet, for what is wrong with it */
  compile(stroke: S, scope: Scope, field: string): Result<Draw>;
}

/** Several formulas at once; refused with the field of the first that cannot be read. */
export function compileAll<K extends string>(
  scope: Scope,
  field: string,
  texts: Record<K, Expr>,
): Result<Record<K, Formula>> {
  const compiled = {} as Record<K, Formula>;
  for (const [name, text] of Object.entries(texts) as [K, Expr][]) {
    const one = scope.compile(text, `${field}.${name}`);
    if (!one.ok) return one;
    compiled[name] = one.value.at;
  }
  return succeed(compiled);
}

/** Faces of a circle where nobody says how many: chords within a hundredth of a millimetre of it, and no more than can be seen. */
export function facesFor(radiusMm: number): number {
  const off = Math.min(0.5, 0.01 / Math.max(0.01, Math.abs(radiusMm)));
  return Math.max(12, Math.min(360, Math.ceil(Math.PI / Math.acos(1 - off))));
}

export const MOST_STEPS = 500_000;
/** A number of steps or corners as it can be: whole, and within bounds. */
export const wholeSteps = (wanted: number, least: number): number =>
  Number.isFinite(wanted) ? Math.max(least, Math.min(MOST_STEPS, Math.round(wanted))) : least;
