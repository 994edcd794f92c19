/** A sheet as a finished program, read back from its own text and checked. */
import { checkFile } from "../checks/file";
import { headClearance } from "../checks/of-programs/head-clearance";
import { Finding, Mend, worstFirst } from "../findings/finding";
import { stateAfter } from "../gcode/follow";
import { ProgramTables, readProgram } from "../gcode/read";
import { ByteWriter, writeMoves } from "../gcode/write";
import type { LayerSettings } from "../heightplan/proof";
import { readingOf } from "../machine/reading";
import { filamentMassG } from "../material/bead";
import { MoveKind, MoveTable } from "../gcode/moves";
import type { MotionLimits } from "../motion/duration";
import { limitsFor } from "../motion/limits";
import { fillTemplate } from "../printing/template";
import { templateValuesOf } from "../printing/template-values";
import { ProgramReport, reportOf } from "../report/report";
import { Result, succeed } from "../result";
import { settingFor } from "../settings";
import { bedCentre, bedDepthMm, headOf, Printer } from "../shelf/printer";
import { costOf, Spool } from "../shelf/spool";
import { spoolTitle } from "../shelf/spool-title";
import { plainNumber, roundTo, sayDuration } from "../units";
import { SheetContext } from "./checks/check";
import { sheetChecks } from "./checks";
import { drawFromAbove } from "./drawing";
import { LaidSheet, LayingWatch, laySheet, SheetWays } from "./lay-sheet";
import { secondsOfMoves } from "./seconds";
import type { Item, Sheet } from "./sheet";

export interface SheetInput {
  sheet: Sheet;
  printer: Printer;
  spool: Spool;
}

export interface SheetFigures {
  seconds: number;
  filamentMm: number;
  massG: number;
  /** Null where the spool has no price. */
  cost: number | null;
  segments: number;
  strokes: number;
  layers: number;
  /** What the order and the ways save against laying everything just as it is written. */
  saved: Saved;
}

export interface Saved {
  retractions: number;
  travelMm: number;
  seconds: number;
}

export interface BuiltSheet {
  bytes: Uint8Array;
  /** Line (from 0) of each of its moves in the program. */
  lineOfMove: Uint32Array;
  laid: LaidSheet;
  tables: ProgramTables;
  report: ProgramReport;
  byLayer: LayerSettings;
  figures: SheetFigures;
  findings: Finding[];
  passed: string[];
}

const FROM_EDGE_MM = 10;
const LAY_BY_LAYER = "Lay it layer by layer";

/** The sheet laid on a printer; refused with the row and field of what cannot be laid. */
export function layOn({ sheet, printer, spool }: SheetInput, watch?: LayingWatch): Result<LaidSheet> {
  return laySheet(sheet, waysOn(printer, spool), null, watch);
}

/** How a printer goes from stroke to stroke with a spool. */
export function waysOn(printer: Printer, spool: Spool): SheetWays {
  const centre = bedCentre(printer);
  return {
    travelMmS: Math.min(150, printer.highestFeedXyMmS),
    liftMmS: Math.min(10, printer.highestFeedZMmS),
    retractionMm: printer.retractionMm,
    retractionMmS: printer.retractionMmS,
    hopMm: printer.hopMm,
    filamentDiameterMm: spool.diameterMm,
    start: { x: centre.x, y: centre.y - bedDepthMm(printer) / 2 + FROM_EDGE_MM },
  };
}

/**
 * A sheet as a finished program, read back from its own text and checked; refused with row and field where it cannot be laid.
 *
 * @example
 * buildSheet({ sheet, printer, spool }).value.figures.layers; // 1
 */
export function buildSheet(input: SheetInput): Result<BuiltSheet> {
  const { sheet, printer, spool } = input;
  const laid = layOn(input);
  if (!laid.ok) return laid;
  const lineOfMove = new Uint32Array(laid.value.moves.count);
  const bytes = write(input, laid.value, lineOfMove);
  if (!bytes.ok) return bytes;
  const tables = readProgram(bytes.value, { reading: readingOf(printer), asksProgram: false });
  const { report, byLayer } = reportOf(tables, limitsFor(printer), headOf(printer));
  const filamentMm = report.filament.reduce((sum, { mm }) => sum + mm, 0);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  return succeed({
    bytes: bytes.value,
    lineOfMove,
    laid: laid.value,
    tables,
    report,
    byLayer,
    figures: {
      seconds: report.seconds,
      filamentMm,
      massG,
      cost: costOf(massG, spool),
      segments: laid.value.moves.count,
      strokes: laid.value.strokes,
      layers: report.layers.length,
      saved: savedBy(input, laid.value),
    },
    ...checkSheet({ sheet, laid: laid.value, tables, report, printer, spool }),
  });
}

function write({ sheet, printer, spool }: SheetInput, laid: LaidSheet, lineOfMove: Uint32Array): Result<Uint8Array> {
  const topMm = laid.moves.z.reduce((top, z) => Math.max(top, z), 0);
  const firstMm = laid.tops[0] ?? 0.2;
  const values = templateValuesOf(printer, {
    nozzleC: Math.round((spool.labelMinC + spool.labelMaxC) / 2),
    bedC: spool.bedC,
    tool: 0,
    topMm,
    firstLayerHeightMm: firstMm,
    layerHeightMm: laid.tops.length > 1 ? Math.abs(laid.tops[1] - firstMm) : firstMm,
  });
  const start = fillTemplate(printer.startLines, values, "startLines");
  if (!start.ok) return start;
  const end = fillTemplate(printer.endLines, values, "endLines");
  if (!end.ok) return end;
  const fan = settingFor("fan").say(spool.fanPercent, printer, 0);
  // First layers are laid as the spool wants them: the fan comes in later.
  const fanLayer = spool.fanFromLayer - 1;
  const still = settingFor("fan").say(0, printer, 0);
  const out = new ByteWriter();
  const lines = (some: readonly string[]) => some.forEach((line) => out.line(line));
  lines(
    [
      `Cuchara: a sheet, ${sheet.name}`,
      `printer  ${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`,
      `spool    ${spoolTitle(spool)}, ${spool.material}`,
      `lays     ${laid.strokes.toLocaleString("en")} strokes in ${laid.tops.length.toLocaleString("en")} layers`,
      ...sheet.figures.map(({ name, value, unit = "" }) => `figure   ${name} = ${value} ${unit}`.trimEnd()),
      "",
      ...drawFromAbove(laid.moves),
      "",
    ].map((line) => `; ${line.replace(/[\r\n]/g, " ")}`.trimEnd()),
  );
  lines(start.value);
  const { x, y } = stateAfter(start.value, readingOf(printer));
  lines(["; positions absolute in mm, filament relative", "G21", "G90", "M83"]);
  const first = fanLayer > 0 ? still : fan;
  if (first.ok) lines(first.value);
  // What the first stroke gives back was drawn back before it.
  if (printer.retractionMm > 0 && !printer.firmwareRetraction) {
    lines([`G1 E-${plainNumber(printer.retractionMm)} F${plainNumber(printer.retractionMmS * 60, 0)}`]);
  } else if (printer.firmwareRetraction) lines(["G10"]);
  writeMoves(out, laid.moves, laid.layerStarts, {
    linesBefore: new Map(fanLayer > 0 && fan.ok ? [[fanLayer, fan.value]] : []),
    linesBeforeMove: laid.linesBeforeMove,
    tops: laid.tops,
    start: { x, y },
    firmwareRetraction: printer.firmwareRetraction,
    lineOfMove,
  });
  lines(["; the print ends here", ...end.value]);
  return succeed(out.take());
}

/** What is wrong with it, worst first, and what is in order: what every program is held to, and what only a sheet can have. */
function checkSheet(context: SheetContext): { findings: Finding[]; passed: string[] } {
  const { sheet, report, printer } = context;
  const usual = checkFile(report, printer).map((finding): Finding => {
    if (finding.check !== "head-clearance" || finding.severity !== "warn" || report.clearanceGaveUp) return finding;
    // Its order is one's own: what strikes can be laid in another.
    const mend: Mend | null =
      report.strike && layByLayer(sheet) ? { label: LAY_BY_LAYER, sheet: "layer-by-layer" } : null;
    return { ...finding, severity: "stop", ...(mend ? { mend } : {}) };
  });
  const own: Finding[] = [];
  const passed: string[] = usual.some(({ check }) => check === "head-clearance")
    ? []
    : [headClearance.passes as string];
  for (const { run, passes } of sheetChecks) {
    const found = run(context);
    own.push(...found);
    if (found.length === 0 && passes) passed.push(passes);
  }
  return { findings: worstFirst([...own, ...usual]), passed };
}

/** The sheet with what a finding's mend makes of it; null where there is nothing to mend. */
export function mendSheet(sheet: Sheet, mend: NonNullable<Mend["sheet"]>): Sheet | null {
  if (mend === "layer-by-layer") return layByLayer(sheet);
  return { ...sheet, keepOut: sheet.keepOut.map((one) => ({ ...one, around: true })) };
}

const NOTHING_SAVED: Saved = { retractions: 0, travelMm: 0, seconds: 0 };

/** What it takes less than the same sheet with nothing optimised. */
function savedBy(input: SheetInput, laid: LaidSheet): Saved {
  const off = { nearestStart: false, nearestCopy: false, noNeedlessRetraction: false };
  const { nearestStart, nearestCopy, noNeedlessRetraction } = input.sheet.optimise ?? {};
  // What is not said is on.
  if ([nearestStart, nearestCopy, noNeedlessRetraction].every((on) => on === false)) return NOTHING_SAVED;
  const plain = layOn({ ...input, sheet: { ...input.sheet, optimise: off } });
  if (!plain.ok) return NOTHING_SAVED;
  const limits = limitsFor(input.printer);
  const [before, after] = [waysIn(plain.value.moves, limits), waysIn(laid.moves, limits)];
  return {
    retractions: before.retractions - after.retractions,
    travelMm: roundTo(before.travelMm - after.travelMm, 0),
    seconds: before.seconds - after.seconds,
  };
}

function waysIn(moves: MoveTable, limits: MotionLimits): Saved {
  let [retractions, travelMm, seconds] = [0, 0, 0];
  for (let i = 1; i < moves.count; i++) {
    if (moves.kind[i] === MoveKind.retract) retractions++;
    if (moves.kind[i] !== MoveKind.travel) continue;
    travelMm += Math.hypot(moves.x[i] - moves.x[i - 1], moves.y[i] - moves.y[i - 1]);
  }
  for (const one of secondsOfMoves(moves, limits)) seconds += one;
  return { retractions, travelMm, seconds };
}

/** Two lines for the page: what it takes. */
export const sayFigures = ({ seconds, filamentMm, strokes }: SheetFigures): string =>
  `${strokes.toLocaleString("en")} strokes, ${sayDuration(seconds)}, ${roundTo(filamentMm / 1000, 2).toFixed(2)} m`;

/**
 * The sheet with every repeat upwards taken outside those along the bed that stand around it: laid layer by layer. Null where it is so
 * already.
 */
export function layByLayer(sheet: Sheet): Sheet | null {
  let hasChanged = false;
  const raise = (item: Item): Item => {
    if (!("items" in item)) return item;
    const items = item.items.map(raise);
    const [only] = items;
    if (
      item.kind === "repeat" &&
      item.along !== "z" &&
      items.length === 1 &&
      only.kind === "repeat" &&
      only.along === "z"
    ) {
      hasChanged = true;
      return raise({ ...only, items: [{ ...item, items: only.items }] });
    }
    return { ...item, items };
  };
  const items = sheet.items.map(raise);
  return hasChanged ? { ...sheet, items } : null;
}
