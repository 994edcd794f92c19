/**
 * As a file counts on it: the lines that bring a machine from the state that is to the state that is wanted, in the printer's own words.
 *
 * Law, kept by a property test: whoever obeys them in the one state is in the other.
 */
import { dialects } from "../machine/dialects";
import { readingOf } from "../machine/reading";
import type { MachineState, PerAxis } from "../machine/state";
import type { Printer } from "../shelf/printer";
import { plainNumber } from "../units";
import { sayFanDuty } from "./fan-lines";
import { MovesMade, movesMadeIn, movesMadeKeys, sayMovesMade } from "./moves-made";

/** A machine, and how much filament of the tool that is in is drawn back by moves, mm. */
export interface Counted {
  state: Readonly<MachineState>;
  drawnMm: number;
}

export interface Bringing {
  /** Heats that rise are waited for. */
  waits: boolean;
  /** The nozzle goes to the wanted place, and over it at this height at least, mm; it stays where it is if left out. */
  overMm?: number;
}

/** How fast: drawing back and giving back, lifting, going across, mm/s. Common practice, no source. */
export const DRAW_MM_S = 30;
export const LIFT_MM_S = 10;
export const GO_MM_S = 100;
const SAME_MM = 1e-6;

/**
 * Lines that bring a machine from one state to another: units and modes, heats by tool and bed, the tool, the place, filament drawn back, fans, how
 * moves are made, how filament is named, and the feed.
 *
 * @example
 * const same = { state: { ...freshState(), relativeE: true, feedMmMin: 1800 }, drawnMm: 1 };
 * asCounted(same, same, printer, { waits: true, overMm: 5 }); // ["G90", "M83", "G1 F1800"]
 */
export function asCounted(from: Counted, to: Counted, printer: Printer, { waits, overMm }: Bringing): string[] {
  const [is, wanted] = [from.state, to.state];
  const isFed = Math.abs(from.drawnMm - to.drawnMm) > SAME_MM || is.drawnBack !== wanted.drawnBack;
  const goes = overMm !== undefined && (is.x !== wanted.x || is.y !== wanted.y || is.z !== wanted.z);
  return [
    // All that follows is said in millimetres, by places, with filament counted from where it stands.
    ...(is.unitMm === 1 ? [] : ["G21"]),
    ...(is.relative && goes ? ["G90"] : []),
    ...heatLines(is, wanted, printer, waits),
    ...(is.tool === wanted.tool ? [] : [`T${wanted.tool}`]),
    ...(goes ? placeLines(is, wanted, overMm) : []),
    ...(isFed ? ["M83", ...drawnLines(from, to)] : []),
    ...fanLines(is, wanted, printer),
    ...wayLines(is, wanted, printer),
    ...limitLines(is, wanted, printer),
    ...modeLines(wanted),
    ...nameLines(is, wanted, goes ? wanted : is),
    `G1 F${plainNumber(wanted.feedMmMin / wanted.unitMm, 2)}`,
  ];
}

function heatLines(
  is: Readonly<MachineState>,
  wanted: Readonly<MachineState>,
  printer: Printer,
  waits: boolean,
): string[] {
  const bed =
    wanted.bedC >= 0 && wanted.bedC !== is.bedC
      ? [`${waits && wanted.bedC > 0 ? "M190" : "M140"} S${plainNumber(wanted.bedC)}`]
      : [];
  const nozzles = wanted.nozzleC.flatMap((heatC, tool) => {
    if (!(heatC >= 0) || heatC === is.nozzleC[tool] || tool >= printer.tools) return [];
    const name = printer.tools > 1 ? ` T${tool}` : "";
    return [`${waits && heatC > 0 ? "M109" : "M104"} S${plainNumber(heatC)}${name}`];
  });
  return [...bed, ...nozzles];
}

/** Up first, across, and down: nothing that stands is gone through. */
function placeLines(is: Readonly<MachineState>, wanted: Readonly<MachineState>, overMm: number): string[] {
  const [x, y, z] = (["X", "Y", "Z"] as const).map((axis) => (mm: number) => plainNumber(mm - is[`offset${axis}`], 3));
  const isAcross = is.x !== wanted.x || is.y !== wanted.y;
  const over = isAcross ? Math.max(is.z, wanted.z, overMm) : wanted.z;
  return [
    ...(over > is.z + SAME_MM ? [`G0 Z${z(over)} F${60 * LIFT_MM_S}`] : []),
    ...(isAcross ? [`G0 X${x(wanted.x)} Y${y(wanted.y)} F${60 * GO_MM_S}`] : []),
    ...(Math.abs(over - wanted.z) > SAME_MM || (!isAcross && wanted.z < is.z)
      ? [`G0 Z${z(wanted.z)} F${60 * LIFT_MM_S}`]
      : []),
  ];
}

function drawnLines({ state: is, drawnMm: isMm }: Counted, { state: wanted, drawnMm }: Counted): string[] {
  const fedMm = isMm - drawnMm;
  return [
    ...(Math.abs(fedMm) > SAME_MM ? [`G1 E${plainNumber(fedMm, 5)} F${60 * DRAW_MM_S}`] : []),
    ...(is.drawnBack === wanted.drawnBack ? [] : [wanted.drawnBack ? "G10" : "G11"]),
  ];
}

function fanLines(is: Readonly<MachineState>, wanted: Readonly<MachineState>, printer: Printer): string[] {
  const { fanPerTool } = readingOf(printer);
  return Array.from({ length: Math.max(is.fanDuty.length, wanted.fanDuty.length) }, (_, index) => {
    const [now, then] = [is.fanDuty[index] ?? NaN, wanted.fanDuty[index] ?? NaN];
    // Off, where it was said: one of which nothing was said may blow since the print before.
    const isSaid = then >= 0 || now >= 0;
    const duty = then >= 0 ? then : 0;
    return !isSaid || now === duty ? [] : sayFanDuty(duty, printer, { index, isNamed: index > 0 || fanPerTool });
  }).flat();
}

/** How moves are made: what the printer has, and what every tool has for itself. */
function wayLines(is: Readonly<MachineState>, wanted: Readonly<MachineState>, printer: Printer): string[] {
  return Array.from({ length: printer.tools }, (_, tool) => {
    const made = (state: Readonly<MachineState>): MovesMade => {
      const all = movesMadeIn(state, tool);
      if (tool === wanted.tool) return all;
      const { pressureAdvance, flowFactor } = all;
      return { ...unsaid, pressureAdvance, flowFactor };
    };
    // A tool that is not in is told by its name, or not at all.
    return sayMovesMade(made(wanted), made(is), printer, tool).filter(
      (line) => tool === wanted.tool || / T\d/.test(line),
    );
  }).flat();
}

/** Limits of the axes, and accelerations that no setting is for, where they were said. */
function limitLines(is: Readonly<MachineState>, wanted: Readonly<MachineState>, printer: Printer): string[] {
  const { takes, feedsPerMinute } = dialects[printer.dialect];
  const line = (code: string, words: readonly (readonly [letter: string, is: number, wanted: number])[], per = 1) => {
    const said = words.filter(([, now, then]) => then > 0 && now !== then);
    if (said.length === 0 || !takes.has(code)) return [];
    return [`${code} ${said.map(([letter, , then]) => `${letter}${plainNumber(then * per, 3)}`).join(" ")}`];
  };
  const axes = (one: PerAxis, other: PerAxis) =>
    (["x", "y", "z", "e"] as const).map((axis) => [axis.toUpperCase(), one[axis], other[axis]] as const);
  return [
    ...line("M204", [
      ["T", is.travelAccelerationMmS2, wanted.travelAccelerationMmS2],
      ["R", is.retractAccelerationMmS2, wanted.retractAccelerationMmS2],
    ]),
    ...line("M201", axes(is.axisAccelerationMmS2, wanted.axisAccelerationMmS2)),
    ...line("M203", axes(is.axisFeedMmS, wanted.axisFeedMmS), feedsPerMinute ? 60 : 1),
  ];
}

const unsaid = Object.fromEntries(movesMadeKeys.map((key) => [key, NaN])) as MovesMade;

/** Units, modes and names as the file left them. Some printers take G90 and G91 for the filament as well: its mode is said behind them. */
function modeLines({ unitMm, relative, relativeE, e, offsetE }: Readonly<MachineState>): string[] {
  return [
    ...(unitMm === 1 ? [] : ["G20"]),
    relative ? "G91" : "G90",
    relativeE ? "M83" : "M82",
    ...(relativeE ? [] : [`G92 E${plainNumber((e - offsetE) / unitMm, 5)}`]),
  ];
}

/** Places that are named otherwise (G92) are named so again. */
function nameLines(
  is: Readonly<MachineState>,
  wanted: Readonly<MachineState>,
  { x, y, z }: Readonly<MachineState>,
): string[] {
  const named = (["X", "Y", "Z"] as const).filter(
    (axis) => Math.abs(is[`offset${axis}`] - wanted[`offset${axis}`]) > SAME_MM,
  );
  if (named.length === 0) return [];
  const places = { X: x, Y: y, Z: z };
  return [
    `G92 ${named.map((axis) => `${axis}${plainNumber((places[axis] - wanted[`offset${axis}`]) / wanted.unitMm, 5)}`).join(" ")}`,
  ];
}
