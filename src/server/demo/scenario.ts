/**
 * The made-up scenario: a school science night wants 240 marble-run tiles, and three printers with a few half-known spools
 * must be ready by then.
 */
import { z } from "zod";
import { printerSchema } from "@/core/shelf/printer";
import { spoolSchema } from "@/core/shelf/spool";

/** Heat, home, lift: usual start lines. */
export const plainStart = `G28
M140 S{{bedFirst}}
M104 S{{nozzleFirst}}
G90
G0 Z10 F600
M190 S{{bedFirst}}
M109 S{{nozzleFirst}}
G92 E0`;

/** Everything off, bed forward: usual end lines. */
export const plainEnd = `M104 S0
M140 S0
M107
G90
G0 Z{{parkZ}} F600
G0 X{{bedCentreX}} Y{{bedCentreY}} F6000
M84`;

type PrinterInput = z.input<typeof printerSchema>;

const common = { startLines: plainStart, endLines: plainEnd };

export const demoPrinters: PrinterInput[] = [
  {
    ...common,
    name: "Ladle 220",
    bedWidthMm: 220,
    bedDepthMm: 220,
    buildHeightMm: 250,
    highestNozzleC: 260,
    dialect: "jerk",
    jerkMmS: 8,
    printAccelerationMmS2: 1000,
  },
  {
    ...common,
    name: "Whisk 300",
    bedWidthMm: 300,
    bedDepthMm: 300,
    buildHeightMm: 340,
    highestNozzleC: 290,
    highestBedC: 110,
    dialect: "deviation",
    junctionDeviationMm: 0.026,
    printAccelerationMmS2: 1500,
    travelAccelerationMmS2: 2000,
    highestFlowMm3S: 16,
    retractionMm: 1.2,
    hopMm: 0.2,
  },
  {
    ...common,
    name: "Twin Ladle",
    bedWidthMm: 230,
    bedDepthMm: 210,
    buildHeightMm: 200,
    dialect: "minute",
    tools: 2,
    fanPerTool: true,
    retractionMm: 2,
    startLines: plainStart
      .replace("G28", "G28\nT{{tool}}")
      .replace(/M(104|109) S\{\{nozzleFirst\}\}/g, "M$1 S{{nozzleFirst}} T{{tool}}"),
    endLines: plainEnd.replace("M104 S0", "M104 S0 T0\nM104 S0 T1").replace("M107", "M107 P0\nM107 P1"),
  },
  {
    ...common,
    name: "Old Kettle",
    bedWidthMm: 200,
    bedDepthMm: 200,
    buildHeightMm: 150,
    highestNozzleC: 240,
    highestBedC: 80,
    dialect: "valve",
    printAccelerationMmS2: 500,
    travelAccelerationMmS2: 500,
    jerkMmS: 15,
    heaterRiseCPerS: 1.8,
    heaterLagS: 8,
    endLines: plainEnd.replace("M107", "M127"),
  },
  {
    ...common,
    name: "Sieve 180",
    bedShape: "round",
    bedWidthMm: 180,
    bedDepthMm: 180,
    bedOrigin: "centre",
    buildHeightMm: 300,
    highestNozzleC: 275,
    dialect: "keyword",
    printAccelerationMmS2: 3000,
    travelAccelerationMmS2: 3000,
    jerkMmS: 5,
    highestFeedXyMmS: 400,
    highestFeedZMmS: 400,
    highestFlowMm3S: 18,
    retractionMm: 3.5,
  },
];

type SpoolInput = z.input<typeof spoolSchema>;

export const demoSpools: SpoolInput[] = [
  {
    name: "PLA Saffron",
    maker: "Larkfield",
    material: "PLA",
    colourName: "Saffron",
    colourHex: "#E0A22B",
    labelMinC: 195,
    labelMaxC: 225,
    bedC: 60,
    fanPercent: 100,
    densityGCm3: 1.24,
    pricePerKg: 24,
  },
  {
    name: "PLA Slate",
    maker: "Larkfield",
    material: "PLA",
    colourName: "Slate",
    colourHex: "#5B6470",
    labelMinC: 180,
    labelMaxC: 220,
    bedC: 60,
    fanPercent: 100,
    densityGCm3: 1.24,
    pricePerKg: 22.5,
  },
  {
    name: "PETG Bottle Green",
    maker: "Moss Hill",
    material: "PETG",
    colourName: "Bottle Green",
    colourHex: "#2F6B4F",
    labelMinC: 225,
    labelMaxC: 250,
    bedC: 80,
    fanPercent: 40,
    densityGCm3: 1.27,
    pricePerKg: 27,
  },
  {
    name: "ASA Chalk",
    maker: "Moss Hill",
    material: "ASA",
    colourName: "Chalk",
    colourHex: "#E8E4DA",
    labelMinC: 235,
    labelMaxC: 260,
    bedC: 100,
    fanPercent: 15,
    densityGCm3: 1.07,
    pricePerKg: 31,
    smallestLayerSeconds: 10,
  },
  {
    name: "TPU Plum",
    maker: "Moss Hill",
    material: "TPU",
    colourName: "Plum",
    colourHex: "#7A3B62",
    labelMinC: 210,
    labelMaxC: 235,
    bedC: 50,
    fanPercent: 50,
    densityGCm3: 1.21,
    pricePerKg: 36,
    smallestLayerSeconds: 10,
  },
  {
    name: "PLA remnant, no label",
    maker: "",
    material: "PLA",
    colourName: "Brick",
    colourHex: "#A4503A",
    labelMinC: 190,
    labelMaxC: 220,
    bedC: 60,
    fanPercent: 100,
    densityGCm3: 1.24,
    pricePerKg: 0,
  },
];
