/** A sheet as a finished program, read back from its own text and checked. */
import { checkFile } from "../checks/file";
import { Finding, worstFirst } from "../findings/finding";
import { stateAfter } from "../gcode/follow";
import { ProgramTables, readProgram } from "../gcode/read";
import { ByteWriter, writeMoves } from "../gcode/write";
import { findBridges } from "../laid/over-air";
import { readingOf } from "../machine/reading";
import { filamentMassG } from "../material/bead";
import { limitsFor } from "../motion/limits";
import { fillTemplate } from "../printing/template";
import { templateValuesOf } from "../printing/template-values";
import { ProgramReport, reportOf } from "../report/report";
import { Result, succeed } from "../result";
import { settingFor } from "../settings";
import { bedCentre, bedDepthMm, headOf, Printer } from "../shelf/printer";
import type { Spool } from "../shelf/spool";
import { spoolTitle } from "../shelf/spool-title";
import { plainNumber, roundTo, sayDuration } from "../units";
import { LaidSheet, laySheet } from "./lay-sheet";
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
  savedRetractions: number;
}

export interface BuiltSheet {
  bytes: Uint8Array;
  laid: LaidSheet;
  tables: ProgramTables;
  report: ProgramReport;
  figures: SheetFigures;
  findings: Finding[];
}

const FROM_EDGE_MM = 10;
/** Strands over air longer than this sag, mm. Common practice, no source. */
const LONGEST_SPAN_MM = 60;

/** The sheet laid on a printer; refused with the row and field of what cannot be laid. */
export function layOn({ sheet, printer, spool }: SheetInput): Result<LaidSheet> {
  const centre = bedCentre(printer);
  return laySheet(sheet, {
    travelMmS: Math.min(150, printer.highestFeedXyMmS),
    liftMmS: Math.min(10, printer.highestFeedZMmS),
    retractionMm: printer.retractionMm,
    retractionMmS: printer.retractionMmS,
    hopMm: printer.hopMm,
    filamentDiameterMm: spool.diameterMm,
    start: { x: centre.x, y: centre.y - bedDepthMm(printer) / 2 + FROM_EDGE_MM },
  });
}

export function buildSheet(input: SheetInput): Result<BuiltSheet> {
  const { sheet, printer, spool } = input;
  const laid = layOn(input);
  if (!laid.ok) return laid;
  const bytes = write(input, laid.value);
  if (!bytes.ok) return bytes;
  const tables = readProgram(bytes.value, { reading: readingOf(printer), asksProgram: false });
  const { report } = reportOf(tables, limitsFor(printer), headOf(printer));
  const filamentMm = report.filament.reduce((sum, { mm }) => sum + mm, 0);
  const massG = filamentMassG(filamentMm, spool.diameterMm, spool.densityGCm3);
  return succeed({
    bytes: bytes.value,
    laid: laid.value,
    tables,
    report,
    figures: {
      seconds: report.seconds,
      filamentMm,
      massG,
      cost: spool.pricePerKg > 0 ? roundTo((massG / 1000) * spool.pricePerKg, 2) : null,
      segments: laid.value.moves.count,
      strokes: laid.value.strokes,
      layers: report.layers.length,
      savedRetractions: laid.value.savedRetractions,
    },
    findings: checkSheet(sheet, tables, report, printer),
  });
}

function write({ sheet, printer, spool }: SheetInput, laid: LaidSheet): Result<Uint8Array> {
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
  const out = new ByteWriter();
  const lines = (some: readonly string[]) => some.forEach((line) => out.line(line));
  lines(
    [
      `Cuchara: a sheet, ${sheet.name}`,
      `printer  ${printer.name}, ${plainNumber(printer.nozzleMm)} mm nozzle`,
      `spool    ${spoolTitle(spool)}, ${spool.material}`,
      ...sheet.figures.map(({ name, value, unit = "" }) => `figure   ${name} = ${value} ${unit}`.trimEnd()),
    ].map((line) => `; ${line.replace(/[\r\n]/g, " ")}`),
  );
  lines(start.value);
  const { x, y } = stateAfter(start.value, readingOf(printer));
  lines(["; positions absolute in mm, filament relative", "G21", "G90", "M83"]);
  if (fan.ok) lines(fan.value);
  // What the first stroke gives back was drawn back before it.
  if (printer.retractionMm > 0 && !printer.firmwareRetraction) {
    lines([`G1 E-${plainNumber(printer.retractionMm)} F${plainNumber(printer.retractionMmS * 60, 0)}`]);
  } else if (printer.firmwareRetraction) lines(["G10"]);
  writeMoves(out, laid.moves, laid.layerStarts, {
    linesBefore: new Map(),
    linesBeforeMove: laid.linesBeforeMove,
    tops: laid.tops,
    start: { x, y },
    firmwareRetraction: printer.firmwareRetraction,
  });
  lines(["; the print ends here", ...end.value]);
  return succeed(out.take());
}

/** What is wrong with it, worst first: what every program is held to, and what only a sheet can have. */
function checkSheet(sheet: Sheet, tables: ProgramTables, report: ProgramReport, printer: Printer): Finding[] {
  const usual = checkFile(report, printer).map((finding): Finding => {
    if (finding.check !== "head-clearance" || finding.severity !== "warn") return finding;
    // Its order is one's own: what strikes can be laid in another.
    return {
      ...finding,
      severity: "stop",
      message: `${finding.message} ${layByLayer(sheet) ? "Laid layer by layer it would not." : ""}`.trim(),
    };
  });
  const over = findBridges(tables).filter(({ spanMm }) => spanMm > LONGEST_SPAN_MM);
  const first = report.layers[0];
  const own: Finding[] = [];
  if (over.length > 0) {
    const [{ layer, spanMm }] = over;
    own.push({
      check: "long-span",
      severity: "warn",
      where: `layer ${layer + 1}`,
      message: `A strand hangs over ${plainNumber(spanMm, 0)} mm of air; more than ${LONGEST_SPAN_MM} mm sag.`,
    });
  }
  if (first && first.zMm > 0.8 * printer.nozzleMm + 1e-6) {
    own.push({
      check: "not-on-bed",
      severity: "warn",
      where: "layer 1",
      message: `The first stroke lies ${plainNumber(first.zMm, 2)} mm above the bed: it does not touch it.`,
    });
  }
  if (report.layers.length === 0) {
    own.push({ check: "nothing-laid", severity: "stop", where: "the sheet", message: "The sheet lays nothing yet." });
  }
  return worstFirst([...own, ...usual]);
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
