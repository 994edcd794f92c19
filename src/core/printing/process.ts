/** How a piece is printed: bead sizes, walls, speeds, fan. Derived from printer, spool and trial; common practice, no source. */
import type { Point } from "../geometry/polygons";
import { beadAreaMm2, beadSpacingMm, strandAreaMm2 } from "../material/bead";
import { materials } from "../material/materials";
import { mostOf, wideNozzleFactor } from "../material/rules";
import { Printer } from "../shelf/printer";
import { Spool } from "../shelf/spool";

export interface Process {
  layerHeightMm: number;
  firstLayerHeightMm: number;
  beadWidthMm: number;
  walls: number;
  solidLayersBelow: number;
  solidLayersAbove: number;
  sparseDensity: number;
  outerWallMmS: number;
  innerWallMmS: number;
  solidMmS: number;
  sparseMmS: number;
  bridgeMmS: number;
  firstLayerMmS: number;
  travelMmS: number;
  /** What the hot end melts with something to spare, mm³/s: no bead asks for more. */
  mostFlowMm3S: number;
  /** Strand over air: leaner than the nozzle is wide, so that it is pulled straight. */
  bridgeStrandMm: number;
  /** Between two strands, mm: they touch, so that an underside can close. */
  bridgePitchMm: number;
  smallestLayerSeconds: number;
  /** Layers slowed down never go below this. */
  slowestMmS: number;
  retractionMm: number;
  retractionMmS: number;
  /** The firmware draws back by itself: G10 and G11 instead of E moves. */
  firmwareRetraction: boolean;
  hopMm: number;
  /** Lifting and lowering. */
  liftMmS: number;
  /** Between the piece and its skirt. */
  skirtGapMm: number;
  /** Rings of brim round the first layer; 0 means a skirt instead. */
  brimRings: number;
  filamentDiameterMm: number;
  /** Walls begin and end at their corner nearest to this place of the piece; at the back left if none is named. */
  seamNear?: Point;
}

/** Of what the hot end melts, so much is asked for. Common practice, no source. */
const FLOW_SHARE = 0.9;
/** Width of a strand over air, in nozzles. */
const BRIDGE_STRAND = 0.9;

/** The fastest a bead is laid within what the hot end melts, mm/s. */
export function fastestBeadMmS(
  printer: Pick<Printer, "highestFlowMm3S">,
  bead: { widthMm: number; heightMm: number },
): number {
  return (FLOW_SHARE * printer.highestFlowMm3S) / beadAreaMm2(bead.widthMm, bead.heightMm);
}

/** Width of a bead, mm: an eighth wider than the nozzle. */
export function beadWidthFor(printer: Pick<Printer, "nozzleMm">): number {
  return Math.round(printer.nozzleMm * 1125) / 1000;
}

/** Layers on a nozzle are usually half as high as it is wide, mm (common practice, no source). */
export function usualLayerMm({ nozzleMm }: Pick<Printer, "nozzleMm">): number {
  return Math.round(nozzleMm * 50) / 100;
}

/** The usual process for a printer, a spool and the trial's layer heights. Speeds stay within the hot end's flow and what the material bears. */
export function processFor(
  printer: Printer,
  spool: Spool,
  heights: { layerHeightMm: number; firstLayerHeightMm: number },
): Process {
  const beadWidthMm = beadWidthFor(printer);
  const area = beadAreaMm2(beadWidthMm, heights.layerHeightMm);
  const mostFlowMm3S = FLOW_SHARE * printer.highestFlowMm3S;
  const mostMmS = Math.min(mostFlowMm3S / area, mostOf(spool.material, "printSpeed"));
  // Whole figures read better, but a wide nozzle on a weak hot end needs less than one.
  const flowLimited = (speedMmS: number) => Math.min(speedMmS, mostMmS >= 1 ? Math.floor(mostMmS) : mostMmS);
  return {
    layerHeightMm: heights.layerHeightMm,
    firstLayerHeightMm: heights.firstLayerHeightMm,
    beadWidthMm,
    walls: 2,
    solidLayersBelow: 4,
    solidLayersAbove: 4,
    sparseDensity: 0.15,
    outerWallMmS: flowLimited(40),
    innerWallMmS: flowLimited(60),
    solidMmS: flowLimited(60),
    sparseMmS: flowLimited(80),
    bridgeMmS: Math.min(20, flowLimited(20), mostFlowMm3S / strandAreaMm2(printer.nozzleMm * BRIDGE_STRAND)),
    firstLayerMmS: flowLimited(20),
    travelMmS: Math.min(150, printer.highestFeedXyMmS),
    mostFlowMm3S,
    bridgeStrandMm: printer.nozzleMm * BRIDGE_STRAND,
    bridgePitchMm: printer.nozzleMm * BRIDGE_STRAND,
    smallestLayerSeconds: spool.smallestLayerSeconds * wideNozzleFactor(printer.nozzleMm),
    slowestMmS: flowLimited(8),
    retractionMm: Math.min(printer.retractionMm, mostOf(spool.material, "retractionLength")),
    retractionMmS: Math.min(printer.retractionMmS, mostOf(spool.material, "retractionSpeed")),
    firmwareRetraction: printer.firmwareRetraction,
    hopMm: printer.hopMm,
    liftMmS: Math.min(10, printer.highestFeedZMmS),
    skirtGapMm: 4,
    brimRings: materials[spool.material].warps ? 10 : 0,
    filamentDiameterMm: spool.diameterMm,
  };
}

/** What the lines inside an island depend on; equal texts, equal lines. */
export function fillKey(process: Process): string {
  const { beadWidthMm, walls, solidLayersBelow, solidLayersAbove, sparseDensity, bridgePitchMm, seamNear } = process;
  const { x, y } = seamNear ?? {};
  return [beadWidthMm, walls, solidLayersBelow, solidLayersAbove, sparseDensity, bridgePitchMm, x, y].join(",");
}

/** Distance between beads that fill a layer of this height, mm. */
export function spacingMm(process: Process, layerHeightMm: number): number {
  return beadSpacingMm(process.beadWidthMm, layerHeightMm);
}

/** Cross-section of what is laid, mm². */
export function laidAreaMm2(process: Process, layerHeightMm: number, overAir: boolean): number {
  return overAir ? strandAreaMm2(process.bridgeStrandMm) : beadAreaMm2(process.beadWidthMm, layerHeightMm);
}
