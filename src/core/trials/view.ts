/** All that is shown of a built trial, but for its text and its moves: made in the page's worker, and ahead of the page on the server. */
import type { Finding } from "../findings/finding";
import type { ResolvedBand } from "../heightplan/plan";
import { outOfReach, sayOutOfReach } from "../heightplan/reach";
import { filamentAreaMm2 } from "../material/bead";
import { FrontView, frontView } from "../printing/front-view";
import { spotsOnBed } from "../printing/piece";
import { bedCentre } from "../shelf/printer";
import type { Spot } from "../specimens/specimen";
import { roundTo } from "../units";
import type { BuiltTrial } from "./build";
import type { InspectedTrial } from "./inspect";
import type { TrialInput } from "./trial";

export interface TrialView {
  tops: Float64Array;
  bands: ResolvedBand[];
  front: FrontView;
  widthMm: number;
  /** What carries the values on the piece, in a sentence or two. */
  legend: string;
  /** Spots of side-by-side values in bed coordinates, mm. */
  spots: Spot[];
  /** Time of each layer, and its flow: the mean, and the most any move asks for. */
  layers: { seconds: Float32Array; flowMm3S: Float32Array; peakFlowMm3S: Float32Array };
  nozzle: { setC: Float64Array; expectedC: Float32Array };
  fan: { setPercent: Float64Array; expectedPercent: Float32Array };
  /** Share (0–1) of each band's height in which the nozzle is settled. */
  bandSettled: number[];
  /** Layers by which the nozzle is best told earlier; null if it does not vary. */
  lead: { layers: number; share: number } | null;
  seconds: number;
  filamentMm: number;
  massG: number;
  cost: number | null;
  findings: Finding[];
  passed: string[];
}

/** What is to be shown of a trial that was built and looked at. */
export function viewOf({ trial, spool, printer }: TrialInput, built: BuiltTrial, inspected: InspectedTrial): TrialView {
  const { report, heat, byLayer } = inspected;
  const area = filamentAreaMm2(spool.diameterMm);
  return {
    tops: Float64Array.from(report.layers, ({ zMm }) => zMm),
    bands: built.bands,
    front: frontView(built.slices),
    widthMm: built.shape.widthMm,
    legend: [built.shape.legend, sayOutOfReach(outOfReach(trial, printer))].filter(Boolean).join(" "),
    spots: spotsOnBed(built.shape.spots ?? [], bedCentre(printer)),
    layers: {
      seconds: Float32Array.from(report.layers, ({ seconds }) => seconds),
      flowMm3S: Float32Array.from(report.layers, ({ seconds, filamentMm }) =>
        seconds > 0 ? (filamentMm * area) / seconds : 0,
      ),
      peakFlowMm3S: Float32Array.from(report.layers, ({ peakFilamentMmS }) => peakFilamentMmS * area),
    },
    nozzle: { setC: heat.setC, expectedC: heat.expectedC },
    fan: { setPercent: byLayer.fan, expectedPercent: inspected.fanPercent },
    bandSettled: inspected.bandSettled,
    lead: inspected.lead,
    seconds: report.seconds,
    filamentMm: inspected.filamentMm,
    massG: inspected.massG,
    cost: inspected.cost,
    findings: inspected.findings,
    passed: inspected.passed,
  };
}

/** A view as plain JSON: its columns as lists of figures. */
export type PlainView = Omit<TrialView, "tops" | "layers" | "nozzle" | "fan"> & {
  tops: number[];
  layers: Record<keyof TrialView["layers"], number[]>;
  nozzle: Record<keyof TrialView["nozzle"], number[]>;
  fan: Record<keyof TrialView["fan"], number[]>;
};

/** Figures that are drawn need no more decimals than this. NaN, where nothing holds, is told as -1: none of the columns goes below 0. */
const DECIMALS = 4;
const listed = (column: ArrayLike<number>) =>
  Array.from(column, (value) => (Number.isNaN(value) ? -1 : roundTo(value, DECIMALS)));
const told = (value: number) => (value === -1 ? NaN : value);

export function plainView({ tops, layers, nozzle, fan, ...view }: TrialView): PlainView {
  return {
    ...view,
    tops: listed(tops),
    layers: {
      seconds: listed(layers.seconds),
      flowMm3S: listed(layers.flowMm3S),
      peakFlowMm3S: listed(layers.peakFlowMm3S),
    },
    nozzle: { setC: listed(nozzle.setC), expectedC: listed(nozzle.expectedC) },
    fan: { setPercent: listed(fan.setPercent), expectedPercent: listed(fan.expectedPercent) },
  };
}

/** The view a plain one stands for. */
export function fullView({ tops, layers, nozzle, fan, ...view }: PlainView): TrialView {
  return {
    ...view,
    tops: Float64Array.from(tops),
    layers: {
      seconds: Float32Array.from(layers.seconds, told),
      flowMm3S: Float32Array.from(layers.flowMm3S, told),
      peakFlowMm3S: Float32Array.from(layers.peakFlowMm3S, told),
    },
    nozzle: { setC: Float64Array.from(nozzle.setC, told), expectedC: Float32Array.from(nozzle.expectedC, told) },
    fan: {
      setPercent: Float64Array.from(fan.setPercent, told),
      expectedPercent: Float32Array.from(fan.expectedPercent, told),
    },
  };
}
