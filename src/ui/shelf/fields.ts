/** The fields of printers and spools as people see them: group, label, unit, help. One list drives form and order. */
import { dialectKeys, dialects } from "@/core/machine/dialects";
import { materialNames } from "@/core/material/materials";
import { templateNames } from "@/core/printing/template";
import type { Printer } from "@/core/shelf/printer";
import type { Spool } from "@/core/shelf/spool";

const hasJerk = ({ dialect }: Pick<Printer, "dialect">): boolean => dialects[dialect].cornering === "jerk";

export type Field<T> = {
  name: keyof T & string;
  label: string;
  help?: string;
  /** Shown only if this says so. */
  when?(record: T): boolean;
} & (
  | { kind: "text"; required?: boolean }
  | { kind: "number"; unit: string; step?: number }
  | { kind: "choice"; options: { value: string; label: string }[] }
  | { kind: "switch" }
  | { kind: "colour" }
  | { kind: "lines" }
);

export interface FieldGroup<T> {
  title: string;
  fields: Field<T>[];
}

const names = Object.entries(templateNames)
  .map(([name, { says }]) => `{{${name}}} ${says}`)
  .join("; ");

export const printerFields: FieldGroup<Printer>[] = [
  {
    title: "Machine",
    fields: [
      { name: "name", label: "Name", kind: "text", required: true },
      {
        name: "bedShape",
        label: "Bed",
        kind: "choice",
        options: [
          { value: "rectangle", label: "Rectangle" },
          { value: "round", label: "Round" },
        ],
      },
      { name: "bedWidthMm", label: "Width (X), or diameter", kind: "number", unit: "mm" },
      {
        name: "bedDepthMm",
        label: "Depth (Y)",
        kind: "number",
        unit: "mm",
        when: ({ bedShape }) => bedShape !== "round",
      },
      { name: "buildHeightMm", label: "Highest Z", kind: "number", unit: "mm" },
      { name: "enclosed", label: "Closed, with a door", kind: "switch" },
      {
        name: "bedOrigin",
        label: "X0 Y0 is at",
        kind: "choice",
        options: [
          { value: "corner", label: "the front left corner" },
          { value: "centre", label: "the middle of the bed" },
        ],
      },
      { name: "nozzleMm", label: "Nozzle", kind: "number", unit: "mm", step: 0.1 },
      { name: "tools", label: "Tools", kind: "number", unit: "" },
      {
        name: "dialect",
        label: "Dialect",
        kind: "choice",
        options: dialectKeys.map((key) => ({ value: key, label: `${dialects[key].label}: ${dialects[key].explains}` })),
      },
    ],
  },
  {
    title: "Heat and fan",
    fields: [
      { name: "highestNozzleC", label: "Nozzle at most", kind: "number", unit: "°C" },
      { name: "highestBedC", label: "Bed at most", kind: "number", unit: "°C" },
      { name: "heaterRiseCPerS", label: "Heats, near 200 °C", kind: "number", unit: "°C/s", help: "2–3 is usual" },
      { name: "heaterFallCPerS", label: "Cools, near 200 °C", kind: "number", unit: "°C/s", help: "about 1 is usual" },
      { name: "heaterLagS", label: "Tip lags behind by", kind: "number", unit: "s" },
      {
        name: "highestFlowMm3S",
        label: "Flow at most",
        kind: "number",
        unit: "mm³/s",
        help: "about 11 for a plain hot end",
      },
      {
        name: "smallestTurningDuty",
        label: "Fan turns from duty",
        kind: "number",
        unit: "of 255",
        when: ({ dialect }) => dialects[dialect].fanHasDuty,
      },
      { name: "fanPerTool", label: "A fan for each tool", kind: "switch", when: ({ tools }) => tools > 1 },
      {
        name: "offsetsInProgram",
        label: "Files say where tools stand",
        kind: "switch",
        when: ({ tools }) => tools > 1,
      },
      { name: "fanRunUpS", label: "Fan takes to run up", kind: "number", unit: "s", step: 0.5 },
      {
        name: "screenLetters",
        label: "Screen shows",
        kind: "number",
        unit: "letters",
        step: 1,
        help: "0: as many as there are",
      },
      {
        name: "screenLacks",
        label: "Screen does not have",
        kind: "text",
        help: "characters it drops or shows wrongly, like a colon",
      },
    ],
  },
  {
    title: "Motion",
    fields: [
      { name: "printAccelerationMmS2", label: "Acceleration, printing", kind: "number", unit: "mm/s²", step: 100 },
      { name: "travelAccelerationMmS2", label: "Acceleration, travelling", kind: "number", unit: "mm/s²", step: 100 },
      { name: "retractAccelerationMmS2", label: "Acceleration, retracting", kind: "number", unit: "mm/s²", step: 100 },
      { name: "highestAccelerationZMmS2", label: "Acceleration, Z at most", kind: "number", unit: "mm/s²", step: 10 },
      {
        name: "highestAccelerationEMmS2",
        label: "Acceleration, extruder at most",
        kind: "number",
        unit: "mm/s²",
        step: 500,
      },
      { name: "jerkMmS", label: "Jerk", kind: "number", unit: "mm/s", when: hasJerk },
      {
        name: "junctionDeviationMm",
        label: "Junction deviation",
        kind: "number",
        unit: "mm",
        step: 0.005,
        when: ({ dialect }) => !hasJerk({ dialect }),
      },
      {
        name: "jerkZMmS",
        label: "Z jerk",
        kind: "number",
        unit: "mm/s",
        step: 0.1,
        when: hasJerk,
      },
      {
        name: "jerkEMmS",
        label: "Extruder jerk",
        kind: "number",
        unit: "mm/s",
        when: hasJerk,
      },
      {
        name: "lookAheadMoves",
        label: "Plans ahead",
        kind: "number",
        unit: "moves",
        help: "16 is usual; more is smoother on short lines",
      },
      { name: "highestFeedXyMmS", label: "X and Y at most", kind: "number", unit: "mm/s" },
      { name: "highestFeedZMmS", label: "Z at most", kind: "number", unit: "mm/s" },
      { name: "highestFeedEMmS", label: "Extruder at most", kind: "number", unit: "mm/s" },
      { name: "retractionMm", label: "Retraction", kind: "number", unit: "mm", step: 0.1 },
      { name: "retractionMmS", label: "Retraction speed", kind: "number", unit: "mm/s" },
      { name: "firmwareRetraction", label: "The firmware retracts (G10, G11)", kind: "switch" },
      { name: "hopMm", label: "Lift while travelling", kind: "number", unit: "mm", step: 0.1 },
      { name: "pressureAdvanceS", label: "Pressure advance", kind: "number", unit: "s", step: 0.01 },
    ],
  },
  {
    title: "Head",
    fields: [
      {
        name: "nozzleConeDegrees",
        label: "Nozzle’s cone rises",
        kind: "number",
        unit: "°",
        step: 5,
        help: "flank of the cone against the bed",
      },
      { name: "headHeightMm", label: "Head hangs above the tip", kind: "number", unit: "mm" },
      { name: "headRadiusMm", label: "Head reaches out", kind: "number", unit: "mm", help: "from the nozzle’s middle" },
    ],
  },
  {
    title: "Start and end",
    fields: [
      { name: "startLines", label: "Start lines", kind: "lines", help: `Names that are filled in: ${names}.` },
      { name: "endLines", label: "End lines", kind: "lines", help: "Everything off: nozzle, bed, fan, motors." },
    ],
  },
];

export const spoolFields: FieldGroup<Spool>[] = [
  {
    title: "Filament",
    fields: [
      { name: "name", label: "Name", kind: "text", required: true, help: "As on the box, like “PLA Saffron”" },
      { name: "maker", label: "Maker", kind: "text" },
      {
        name: "material",
        label: "Material",
        kind: "choice",
        options: materialNames.map((name) => ({ value: name, label: name })),
      },
      { name: "colourName", label: "Colour", kind: "text" },
      { name: "colourHex", label: "Looks like", kind: "colour" },
      { name: "diameterMm", label: "Diameter", kind: "number", unit: "mm", step: 0.05 },
      { name: "densityGCm3", label: "Density", kind: "number", unit: "g/cm³", step: 0.01 },
      { name: "pricePerKg", label: "Price of a kilogram", kind: "number", unit: "" },
      { name: "currency", label: "Currency", kind: "text" },
    ],
  },
  {
    title: "How it wants to be treated",
    fields: [
      { name: "labelMinC", label: "Label says from", kind: "number", unit: "°C", step: 5 },
      { name: "labelMaxC", label: "Label says to", kind: "number", unit: "°C", step: 5 },
      { name: "bedC", label: "Bed", kind: "number", unit: "°C", step: 5 },
      { name: "fanPercent", label: "Fan", kind: "number", unit: "%", step: 5 },
      {
        name: "smallestLayerSeconds",
        label: "A layer takes at least",
        kind: "number",
        unit: "s",
        help: "about 8–10 s for PLA",
      },
    ],
  },
  {
    title: "On the first layers",
    fields: [
      { name: "firstLayers", label: "First layers", kind: "number", unit: "layers", step: 1 },
      { name: "firstLayersNozzleHotterC", label: "Nozzle hotter by", kind: "number", unit: "°C", step: 5 },
      { name: "firstLayersBedHotterC", label: "Bed hotter by", kind: "number", unit: "°C", step: 5 },
      {
        name: "fanFromLayer",
        label: "Fan from layer",
        kind: "number",
        unit: "",
        step: 1,
        help: "counted from 1; below it the fan is off",
      },
    ],
  },
];
