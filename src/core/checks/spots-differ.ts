import { laysMaterial, MoveKind, EventKind } from "../gcode/moves";
import { ProgramTables } from "../gcode/read";
import { SideBySide } from "../heightplan/plan";
import { settingFor } from "../settings";
import { bedCentre, Printer } from "../shelf/printer";
import { Spot } from "../specimens/specimen";
import { plainNumber } from "../units";
import { Check } from "./finding";

export interface SpotReading {
  /** Index of the spot the nozzle was nearest to. */
  spot: number;
  layer: number;
  value: number;
}

/**
 * What a finished program does at each spot, read back from its own text: every drawing back for the retraction's length and speed,
 * every laying move for a value that is set by a command. Places in bed coordinates, mm.
 */
export function readSpots(tables: ProgramTables, { setting }: SideBySide, spots: readonly Spot[]): SpotReading[] {
  const { moves, events } = tables;
  const { hear, measure } = settingFor(setting);
  const readings: SpotReading[] = [];
  let event = 0;
  let value = NaN;
  // What is drawn back belongs to the material laid before it, even if the next layer has been announced.
  let laidIn = -1;
  for (let i = 1; i < moves.count; i++) {
    while (event < events.count && events.move[event] <= i) {
      const heard = hear(events.kind[event] as EventKind, events.value[event]);
      if (heard !== null) value = heard;
      event++;
    }
    if (moves.layer[i] < 0) continue;
    if (laysMaterial(moves.kind[i])) laidIn = moves.layer[i];
    if (measure) {
      if (moves.kind[i] !== MoveKind.retract) continue;
      const drawn = measure({ retractionMm: -moves.filamentMm[i], retractionMmS: moves.feedMmS[i], printMmS: NaN });
      readings.push({ spot: nearest(spots, moves.x[i], moves.y[i]), layer: laidIn, value: drawn });
    } else if (laysMaterial(moves.kind[i]) && !Number.isNaN(value)) {
      const spot = nearest(spots, (moves.x[i] + moves.x[i - 1]) / 2, (moves.y[i] + moves.y[i - 1]) / 2);
      readings.push({ spot, layer: moves.layer[i], value });
    }
  }
  return readings;
}

function nearest(spots: readonly Spot[], x: number, y: number): number {
  let best = 0;
  let least = Infinity;
  spots.forEach((spot, i) => {
    const distance = (spot.x - x) ** 2 + (spot.y - y) ** 2;
    if (distance < least) {
      least = distance;
      best = i;
    }
  });
  return best;
}

/** The spots of the piece in bed coordinates. */
export function spotsOnBed(spots: readonly Spot[], centre: { x: number; y: number }): Spot[] {
  return spots.map(({ x, y, label }) => ({ x: x + centre.x, y: y + centre.y, label }));
}

/** Places whose value in the finished text is not the plan's. */
export function wrongSpots(
  readings: readonly SpotReading[],
  { setting, values }: SideBySide,
  printer: Printer,
  fromLayer: number,
): SpotReading[] {
  const { effective, tolerance } = settingFor(setting);
  return readings.filter(
    ({ spot, layer, value }) =>
      layer >= fromLayer && !(Math.abs(value - effective(values[spot], printer)) <= tolerance + 1e-9),
  );
}

/** Side-by-side values that the finished text does not give their own spot. */
export const spotsDiffer: Check = {
  key: "spots-differ",
  passes: null,
  run({ trial, tables, shape, printer, bands }) {
    const sideBySide = trial?.plan.sideBySide;
    if (!trial || !sideBySide || !shape?.spots) return [];
    const spots = spotsOnBed(shape.spots, bedCentre(printer));
    const readings = readSpots(tables, sideBySide, spots);
    const fromLayer = bands[0]?.firstLayer ?? 0;
    const wrong = wrongSpots(readings, sideBySide, printer, fromLayer);
    const { label, unit, decimals } = settingFor(sideBySide.setting);
    const seen = new Set(readings.map(({ spot }) => spot));
    const missing = sideBySide.values.findIndex((value, i) => value > 0 && !seen.has(i));
    if (wrong.length === 0 && missing < 0) return [];
    const first = wrong[0];
    return [
      {
        check: "spots-differ",
        severity: "stop",
        where: first ? `spot ${first.spot + 1}, layer ${first.layer + 1}` : `spot ${missing + 1}`,
        message: first
          ? `${label} should be ${plainNumber(sideBySide.values[first.spot], decimals)} ${unit} there, but the file gives ${plainNumber(first.value, decimals)} ${unit}; ${wrong.length} differ.`
          : `${label} ${plainNumber(sideBySide.values[missing], decimals)} ${unit} never comes to its spot in the file.`,
      },
    ];
  },
};
