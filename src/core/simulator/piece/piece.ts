/** What comes of a run on a simulated printer: the state of everything on the piece that is read. */
import { beadWidthFor } from "../../printing/process";
import type { CriterionKey } from "../../reading";
import type { Measure } from "../../reading/guide";
import { settingFor, SettingKey } from "../../settings";
import type { Spool } from "../../shelf/spool";
import { guideOf, Run, Unit, unitsOf } from "../../trials/run";
import { roundTo } from "../../units";
import { Laid, lost } from "./defect";
import { defects } from "./defects";
import { PieceTruths, truthsOf } from "./truths";

/** One band, or one place beside others, as it came out. */
export interface PieceUnit {
  /** From 1. */
  band: number;
  /** 0 to 4 and between, for all that the kind looks at. */
  marks: Partial<Record<CriterionKey, number>>;
  /** What a perfect calliper would say, mm, where the kind measures something. */
  lengthMm?: number;
}

export interface SimulatedPiece {
  units: PieceUnit[];
  /** Between two ripples behind an edge, by unit, mm: the way in one swing, v / f. */
  rippleMm: number[];
}

type Printed = Pick<Run, "trial" | "printer" | "reachedMm" | "told" | "byHand">;

/** @param feedShare share of the filament asked for that is really fed, with the steps in force */
export function pieceOf(run: Printed, spool: Spool, feedShare: number): SimulatedPiece {
  const truths = truthsOf(run.printer, spool);
  const guide = guideOf(run);
  const units = unitsOf(run).map((unit) => ({ unit, laid: laidIn(run, unit, spool, feedShare) }));
  return {
    units: units.map(({ unit, laid }) => {
      const marks = guide.uses.map(({ key }) => [key, roundTo(defects[key].mark(laid, truths), 2)]);
      const wantedMm = unit.wantedMm ?? beadWidthFor(run.printer);
      return {
        band: unit.band,
        marks: Object.fromEntries(marks) as PieceUnit["marks"],
        ...(guide.measure ? { lengthMm: roundTo(lengthOf(guide.measure.tells, wantedMm, laid, truths), 4) } : {}),
      };
    }),
    rippleMm: units.map(({ laid }) => roundTo(rippleMm(laid, truths), 2)),
  };
}

/** What a perfect calliper would say. */
function lengthOf(tells: Measure["tells"], wantedMm: number, laid: Laid, truths: PieceTruths): number {
  if (tells === "ripple") return rippleMm(laid, truths);
  // Half a millimetre of sag for each mark that is lost (invented), and never none at all.
  if (tells === "sag") return Math.max(0.02, 0.5 * lost(defects.bridge.mark(laid, truths)));
  // A bead grows in width as it grows in volume.
  return wantedMm * laid.flowShare;
}

export const rippleMm = ({ speedMmS }: Pick<Laid, "speedMmS">, { resonanceHz }: Pick<PieceTruths, "resonanceHz">) =>
  speedMmS / resonanceHz;

/** What held while a unit was laid: what its band set, what was held fixed, else what is usual; the nozzle as it was measured. */
function laidIn({ trial, printer, told }: Printed, unit: Unit, spool: Spool, feedShare: number): Laid {
  const at = (key: SettingKey) => unit.settings[key] ?? trial.fixed[key] ?? settingFor(key).usual(printer, spool);
  const measuredC = told.find(({ band }) => band === unit.inBand)?.meanC;
  return {
    nozzleC: measuredC ?? at("nozzleTemperature"),
    fanPercent: at("fan"),
    retractionMm: at("retractionLength"),
    retractionMmS: at("retractionSpeed"),
    speedMmS: at("printSpeed"),
    accelerationMmS2: at("acceleration"),
    corneringShare:
      (at("jerk") / (printer.jerkMmS || 1)) * (at("junctionDeviation") / (printer.junctionDeviationMm || 1)),
    pressureAdvance: unit.settings.pressureAdvance ?? trial.fixed.pressureAdvance ?? null,
    flowShare: (at("flowFactor") / 100) * feedShare,
  };
}
