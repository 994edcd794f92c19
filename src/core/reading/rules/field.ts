/**
 * A field of values, one along and one across: for every value along, the least value across that is good; and the value along where that
 * is least. By a parabola through what each row needs (fit.ts) where there are enough rows and it opens upwards, else the best row itself.
 */
import { settingFor, SettingKey } from "../../settings";
import { plainNumber } from "../../units";
import { polynomialFit } from "../fit";
import type { Found } from "../found";
import type { ScoredBand } from "../score";
import { leastValue } from "./threshold";

export interface FoundInField extends Found {
  /** The value along. */
  along: number;
}

const FEWEST_ACROSS = 3;
const FEWEST_ROWS = 4;

/** Null while no row has marks on three values across. */
export function fieldValue(cells: readonly ScoredBand[], across: SettingKey, along: SettingKey): FoundInField | null {
  const rows = rowsOf(cells).flatMap(({ value, cells: own }) =>
    own.length < FEWEST_ACROSS ? [] : [{ along: value, found: leastValue(own, across) }],
  );
  if (rows.length === 0) return null;
  // A row in which nothing is good needs more than was tried; one that tells nothing says nothing.
  const told = rows.filter(({ found }) => found.advice !== "mark-more" && found.advice !== "higher");
  if (told.length === 0) return { ...rows[0].found, along: rows[0].along };
  const best = told.reduce((least, row) => (row.found.value < least.found.value ? row : least));
  const found = bottomOf(told) ?? { along: best.along, value: best.found.value };
  const { unit, decimals } = settingFor(along);
  const nearest = told.reduce((near, row) =>
    Math.abs(row.along - found.along) < Math.abs(near.along - found.along) ? row : near,
  );
  return {
    ...nearest.found,
    value: Math.max(0, found.value),
    fromValue: Math.min(nearest.found.fromValue, found.value),
    toValue: Math.max(nearest.found.toValue, found.value),
    along: found.along,
    why: `At ${plainNumber(found.along, decimals)} ${unit} the least is needed. ${nearest.found.why}`,
  };
}

function rowsOf(cells: readonly ScoredBand[]): { value: number; cells: ScoredBand[] }[] {
  const rows = new Map<number, ScoredBand[]>();
  for (const cell of cells) {
    if (cell.along === undefined) continue;
    rows.set(cell.along, [...(rows.get(cell.along) ?? []), cell]);
  }
  return [...rows].map(([value, own]) => ({ value, cells: own }));
}

/** The lowest point of a parabola through what the rows need, if it lies among them. */
function bottomOf(rows: readonly { along: number; found: Found }[]): { along: number; value: number } | null {
  if (rows.length < FEWEST_ROWS) return null;
  const middle = rows.reduce((sum, { along }) => sum + along, 0) / rows.length;
  const fit = polynomialFit(
    rows.map(({ along }) => along - middle),
    rows.map(({ found }) => found.value),
    2,
  );
  if (!fit) return null;
  const [a, b, c] = fit.coefficients;
  // The bend is believed from two of its standard errors on.
  if (!(c > 2 * Math.sqrt(Math.max(0, fit.residualVariance * fit.unscaled[2][2])))) return null;
  const at = -b / (2 * c);
  const [low, high] = [Math.min(...rows.map(({ along }) => along)), Math.max(...rows.map(({ along }) => along))];
  if (at + middle < low || at + middle > high) return null;
  return { along: at + middle, value: a + b * at + c * at * at };
}
