/** What a new printer and a new spool start with. */
import { usualEndLines, usualStartLines } from "@/core/printing/template";
import { Material, materials } from "@/core/material/materials";

export const newPrinter = {
  name: "",
  bedShape: "rectangle",
  bedWidthMm: 220,
  bedDepthMm: 220,
  bedOrigin: "corner",
  buildHeightMm: 250,
  nozzleMm: 0.4,
  highestNozzleC: 260,
  highestBedC: 100,
  dialect: "jerk",
  tools: 1,
  fanPerTool: false,
  smallestTurningDuty: 15,
  printAccelerationMmS2: 1000,
  travelAccelerationMmS2: 1000,
  retractAccelerationMmS2: 1500,
  highestAccelerationZMmS2: 100,
  highestAccelerationEMmS2: 10_000,
  jerkMmS: 8,
  jerkZMmS: 0.4,
  jerkEMmS: 5,
  junctionDeviationMm: 0.02,
  lookAheadMoves: 16,
  highestFeedXyMmS: 300,
  highestFeedZMmS: 10,
  highestFeedEMmS: 50,
  highestFlowMm3S: 11,
  heaterRiseCPerS: 2.5,
  heaterFallCPerS: 1,
  heaterLagS: 5,
  retractionMm: 4,
  retractionMmS: 35,
  hopMm: 0,
  startLines: usualStartLines,
  endLines: usualEndLines,
};

/** The usual figures of a material, for a spool whose material was just chosen. */
export function figuresOf(material: Material) {
  const { densityGCm3, labelMinC, labelMaxC, bedC, fanPercent, smallestLayerSeconds } = materials[material];
  return { densityGCm3, labelMinC, labelMaxC, bedC, fanPercent, smallestLayerSeconds };
}

export const newSpool = {
  name: "",
  maker: "",
  material: "PLA",
  colourName: "",
  colourHex: "#B8A58F",
  diameterMm: 1.75,
  pricePerKg: 0,
  currency: "€",
  ...figuresOf("PLA"),
};
