/** What a ruler, a calliper and a look at the piece would show at a simulated printer, with the noise such readings have. */
import { bedCentre } from "../shelf/printer";
import { roundTo } from "../units";
import { Noise } from "./noise";
import type { SimulatedPrinter } from "./machine";
import { bestNozzleOf, LookedAt } from "./piece/truths";

/** Spread of readings, mm: by a ruler on filament, by a calliper. Common practice, no source. */
const RULER_SIGMA_MM = 0.12;
const CALLIPER_SIGMA_MM = 0.008;

export interface RulerReadings {
  /** Left of the 120 mm that were marked above the extruder before E was named 0. */
  filamentLeftMm: number;
  /** Fed by each move of the extruder alone since then. */
  feedsMm: number[];
  /** Length of the last move of each axis. */
  lastMoveMm: { x: number; y: number; z: number };
  /** Where the nozzle stands, seen from the marked middle of the bed. */
  fromCentreMm: { x: number; y: number };
  /** Thickness of the four walls of a one-wall box that should be `wallMm`. */
  wallsMm: number[];
  /** The nozzle temperature at which the spool comes out best by eye; null without a spool. */
  bestNozzleC: number | null;
  display: string;
}

/**
 * Reads everything at once.
 * @param wallMm how thick the walls of the box were told to be; @param flowPercent the flow it was printed with
 */
export function readRuler(
  machine: SimulatedPrinter,
  seed: number,
  { wallMm = 0.45, flowPercent = 100, spool = null as LookedAt | null } = {},
): RulerReadings {
  const noise = new Noise(seed);
  const { truth, personality, state } = machine;
  const ruler = (mm: number) => roundTo(mm + noise.bell(RULER_SIGMA_MM), 1);
  const calliper = (mm: number) => roundTo(mm + noise.bell(CALLIPER_SIGMA_MM), 2);
  const centre = bedCentre(machine.printer);
  const wall = wallMm * machine.feedTruth(machine.tool) * (flowPercent / 100);
  return {
    filamentLeftMm: Math.max(0, ruler(120 - truth.fedMm[machine.tool])),
    feedsMm: truth.feeds.slice(-40).map(ruler),
    lastMoveMm: {
      x: calliper(truth.lastMoveMm.x),
      y: calliper(truth.lastMoveMm.y),
      z: calliper(truth.lastMoveMm.z),
    },
    fromCentreMm: {
      x: ruler(state.x + truth.standsOffMm.x - centre.x),
      y: ruler(state.y + truth.standsOffMm.y - centre.y),
    },
    wallsMm: [1.01, 0.99, 1.005, 0.995].map((side) => calliper(wall * side)),
    bestNozzleC: spool && Math.round(bestNozzleOf(spool) + personality.truths.nozzleReadsHighC + noise.bell(1.5)),
    display: machine.display,
  };
}
