/** What the names in a printer's start and end lines stand for. */
import { bedCentre, bedDepthMm, Printer } from "../shelf/printer";
import type { TemplateValues } from "./template";

/** How far from the bed's edge a nozzle waits, and above the piece, mm. */
const FROM_EDGE_MM = 10;
const ABOVE_PIECE_MM = 10;

/** What a program brings along. */
export interface ProgramFigures {
  nozzleC: number;
  bedC: number;
  tool: number;
  topMm: number;
  firstLayerHeightMm: number;
  layerHeightMm: number;
}

export function templateValuesOf(printer: Printer, program: ProgramFigures): TemplateValues {
  const centre = bedCentre(printer);
  return {
    nozzleFirst: program.nozzleC,
    bedFirst: program.bedC,
    tool: program.tool,
    bedCentreX: centre.x,
    bedCentreY: centre.y,
    frontY: centre.y - bedDepthMm(printer) / 2 + FROM_EDGE_MM,
    backY: centre.y + bedDepthMm(printer) / 2 - FROM_EDGE_MM,
    bedWidth: printer.bedWidthMm,
    bedDepth: bedDepthMm(printer),
    buildHeight: printer.buildHeightMm,
    topZ: program.topMm,
    parkZ: Math.min(printer.buildHeightMm, program.topMm + ABOVE_PIECE_MM),
    firstLayerHeight: program.firstLayerHeightMm,
    layerHeight: program.layerHeightMm,
    nozzleSize: printer.nozzleMm,
  };
}
