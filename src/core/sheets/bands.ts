/** A trial's bands as a sheet sees them: where they begin, what they are worth, and how the nozzle goes there. */
import { refuse, Result, succeed } from "../result";
import { BAND_SLOTS } from "./formula";
import { Scope } from "./scope";
import type { Rehearsal, Sheet } from "./sheet";

/** What a band sets of the way things are laid; what is left out is the sheet's and the printer's own. */
export interface BandWays {
  speedMmS?: number;
  travelMmS?: number;
  retractionMm?: number;
  retractionMmS?: number;
}

export interface SheetBands {
  /** Heights at which they begin, mm, lowest first. What lies below the first has its value. */
  edgesMm: number[];
  values: number[];
  ways?: BandWays[];
  /** Below the first band. */
  baseWays?: BandWays;
}

/** Index of the band that a layer with its top at `zMm` belongs to; -1 below the first. */
export function bandAt({ edgesMm }: SheetBands, zMm: number): number {
  let band = -1;
  while (band + 1 < edgesMm.length && edgesMm[band + 1] < zMm - 1e-6) band++;
  return band;
}

/** The bands of a sheet that is laid on its own: what it rehearses, over its whole height; null where it rehearses nothing. */
export function rehearsedBands({ figures, rehearse }: Sheet, heightMm: number): Result<SheetBands | null> {
  if (!rehearse) return succeed(null);
  const scope = Scope.of(figures);
  if (!scope.ok) return scope;
  const figure = (name: keyof Rehearsal): Result<number> => {
    const compiled = scope.value.compile(rehearse[name], `rehearse.${name}`);
    if (!compiled.ok) return compiled;
    const value = compiled.value.at(scope.value.slots);
    return Number.isFinite(value) ? succeed(value) : refuse("It has no value.", `rehearse.${name}`);
  };
  const [from, to, bands] = [figure("from"), figure("to"), figure("bands")];
  if (!from.ok) return from;
  if (!to.ok) return to;
  if (!bands.ok) return bands;
  const count = Math.round(bands.value);
  if (count < 1 || count > BAND_SLOTS.most)
    return refuse(`There would be ${count} bands; 1 to ${BAND_SLOTS.most} can be.`, "rehearse.bands");
  const share = (i: number) => (count === 1 ? 0 : i / (count - 1));
  return succeed({
    edgesMm: Array.from({ length: count }, (_, i) => (heightMm * i) / count),
    values: Array.from({ length: count }, (_, i) => from.value + (to.value - from.value) * share(i)),
  });
}
