import { laysMaterial, MoveKind, MoveTable, EventKind } from "../../gcode/moves";
import { ProgramTables } from "../../gcode/read";
import { SideBySide } from "../../heightplan/plan";
import { settingFor } from "../../settings";
import type { Measure } from "../../settings/measure";
import { bedCentre, Printer } from "../../shelf/printer";
import { nearestSpot } from "../../printing/order";
import { Spot } from "../../printing/piece";
import { Slice } from "../../printing/slices";
import { plainNumber } from "../../units";
import { Check } from "../check";

export interface SpotReading {
  /** Index of the spot the nozzle was nearest to. */
  spot: number;
  layer: number;
  value: number;
}

/**
 * What a finished program does at each spot, read back from its own text: every drawing back for the retraction's length and speed,
 * every laying move for a value that is set by a command. An island belongs to the spot nearest to the middle of its box, wherever on
 * it the nozzle stands: the end of a wide plate may be nearer to another.
 *
 * @param slices the piece as it is cut; @param centre where its 0, 0 lies on the bed, mm
 */
export function readSpots(
  tables: ProgramTables,
  { setting }: SideBySide,
  spots: readonly Spot[],
  slices: readonly Slice[],
  centre: { x: number; y: number },
): SpotReading[] {
  const { moves, events } = tables;
  const { hear, measure } = settingFor(setting);
  const reader = measure?.();
  const readings: SpotReading[] = [];
  let event = 0;
  let value = NaN;
  // What is drawn back belongs to the material laid before it, even if the next layer has been announced.
  let laidIn = -1;
  let laidAt = 0;
  const spotAt = (layer: number, x: number, y: number) => spotOf(slices[layer], spots, x - centre.x, y - centre.y);
  for (let i = 1; i < moves.count; i++) {
    while (event < events.count && events.move[event] <= i) {
      const heard = hear(events.kind[event] as EventKind, events.value[event]);
      if (heard !== null) value = heard;
      event++;
    }
    if (moves.layer[i] < 0) {
      // What the start says holds for the skirt; the spots begin with what is said for them.
      value = NaN;
      continue;
    }
    const lays = laysMaterial(moves.kind[i]);
    const inMiddle = () => spotAt(moves.layer[i], (moves.x[i] + moves.x[i - 1]) / 2, (moves.y[i] + moves.y[i - 1]) / 2);
    // On its way, and drawing back before it, the nozzle still belongs to what it laid last.
    if (lays) {
      laidIn = moves.layer[i];
      laidAt = i;
    }
    if (!reader) {
      if (lays && !Number.isNaN(value)) readings.push({ spot: inMiddle(), layer: moves.layer[i], value });
      continue;
    }
    if (!isSeen(moves, i, reader.looksAt) || laidIn < 0) continue;
    reader.see(moves, i, Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]));
    const seen = reader.take();
    if (Number.isNaN(seen)) continue;
    const spot = lays ? inMiddle() : spotAt(laidIn, moves.x[laidAt], moves.y[laidAt]);
    readings.push({ spot, layer: laidIn, value: seen });
  }
  return readings;
}

function isSeen({ kind }: MoveTable, i: number, looksAt: Measure["looksAt"]): boolean {
  if (looksAt === "laying") return laysMaterial(kind[i]);
  return kind[i] === (looksAt === "travel" ? MoveKind.travel : MoveKind.retract);
}

/** The spot that what is laid at a point of the piece belongs to. */
function spotOf(slice: Slice | undefined, spots: readonly Spot[], x: number, y: number): number {
  let nearest: Slice["section"]["islands"][number] | null = null;
  let least = Infinity;
  for (const island of slice?.section.islands ?? []) {
    const { minX, maxX, minY, maxY } = island.box;
    const away = Math.hypot(Math.max(minX - x, 0, x - maxX), Math.max(minY - y, 0, y - maxY));
    if (away >= least) continue;
    least = away;
    nearest = island;
  }
  // Single beads have no island: they run beside their spot.
  return nearest
    ? nearestSpot(nearest.box, spots).spot
    : nearestSpot({ minX: x, maxX: x, minY: y, maxY: y }, spots).spot;
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
  run({ trial, tables, shape, slices, printer, bands }) {
    const { sideBySide } = trial.plan;
    if (!sideBySide || !shape.spots) return [];
    // What this printer cannot be told at all is said where it is told.
    if (!settingFor(sideBySide.setting).say(sideBySide.values[0], printer, trial.tool).ok) return [];
    const readings = readSpots(tables, sideBySide, shape.spots, slices, bedCentre(printer));
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
