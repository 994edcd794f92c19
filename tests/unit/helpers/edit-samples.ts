/** A sample of every kind of edit, drawn by seed, and files of many conventions to lay them over. */
import fc from "fast-check";
import { Edit, editsSchema } from "@/core/edits";
import type { Printer } from "@/core/shelf/printer";
import { conventions, pieceText } from "./conventions";
import { ladle, printers } from "./demo";
import { slicedIn } from "./sliced-habits";

export const SAMPLE_LAYERS = 8;
export const twoTools: Printer = printers.find(({ tools }) => tools > 1)!;
/** A wide nozzle, for insides of two layers at once. */
export const wide = (printer: Printer): Printer => ({ ...printer, nozzleMm: 0.6, highestFlowMm3S: 30 });

const layer = fc.integer({ min: 1, max: SAMPLE_LAYERS });
const scope = fc
  .tuple(layer, layer)
  .map(([a, b]) => ({ fromLayer: Math.min(a, b), toLayer: Math.max(a, b), countsFrom: 1 as const }));
const height = fc.integer({ min: 1, max: 6 }).map((n) => n * 0.2);

/** A sample of every kind, with a scope where it takes one. */
export const editSamples: Record<string, fc.Arbitrary<object>> = {
  fan: fc.tuple(scope, fc.constantFrom("off", "scale", "cap")).map(([where, act]) => ({
    ...where,
    ...{ kind: "fan", act, percent: 50 },
  })),
  find: scope.map((where) => ({
    kind: "find",
    find: { command: "G1" },
    scope: where,
    act: { comment: "looked at" },
  })),
  "find a word": scope.map((where) => ({
    kind: "find",
    find: { command: "G1" },
    scope: where,
    act: { scaleWord: { word: "F", by: 0.5 } },
  })),
  "scale-speed": fc
    .tuple(scope, fc.constantFrom(undefined, ["outer-wall"], ["sparse", "travel"]), fc.integer({ min: 20, max: 180 }))
    .map(([where, lines, percent]) => ({ kind: "scale-speed", percent, lines, ...where })),
  "scale-flow": fc
    .tuple(scope, fc.integer({ min: 60, max: 140 }))
    .map(([where, percent]) => ({ kind: "scale-flow", percent, ...where })),
  "speed by factors": scope.map((where) => ({ kind: "scale-speed", percent: 60, by: "factors", ...where })),
  display: fc.constant({ kind: "display", text: "{{layer}}/{{layers}}", countsFrom: 1 }),
  waits: fc.constant({ kind: "waits", inside: true, order: true }),
  pause: fc.integer({ min: 2, max: SAMPLE_LAYERS }).map((at) => ({
    kind: "pause",
    at: { layer: at, countsFrom: 1 },
    park: { x: 10, y: 10, liftMm: 5 },
  })),
  move: fc
    .record({ x: fc.integer({ min: -20, max: 20 }), y: fc.integer({ min: -20, max: 20 }), z: fc.constantFrom(0, 0, 2) })
    .map((byMm) => ({ kind: "move", byMm })),
  tools: fc.constant({ kind: "tools", tools: [{ tool: 0, firstC: 215, laterC: 205 }], allOff: true }),
  "start-end": fc.constant({ kind: "start-end", start: true, end: true }),
  "outer-walls": fc.constant({ kind: "outer-walls", passes: 2 }),
  "inside as one": fc.constant({ kind: "outer-walls", insideEvery: 2 }),
  plan: fc
    .tuple(
      height,
      fc.option(height),
      fc.constantFrom(
        { nozzleTemperature: 225 },
        { fan: 60, nozzleTemperature: 205 },
        { speedFactor: 70 },
        { flowFactor: 92 },
        { acceleration: 900 },
        { retractionLength: 2.5 },
        { travelSpeed: 90 },
      ),
    )
    .map(([fromMm, longMm, settings]) => ({
      kind: "height-plan",
      changes: [{ from: { heightMm: fromMm }, ...(longMm ? { until: { heightMm: fromMm + longMm } } : {}), settings }],
    })),
  "taken out": fc.constant({ kind: "lift-out", what: "foreign", settings: ["nozzleTemperature", "fan"] }),
  bridges: fc.constant({
    kind: "bridges",
    cooler: 15,
    layersBefore: 2,
    layers: [
      { feedPercent: 60, flowPercent: 90, fan: 100 },
      { feedPercent: 80, flowPercent: 100 },
    ],
    only: "strands",
  }),
};

export const parsedEdit = (edit: object): Edit => editsSchema.parse([JSON.parse(JSON.stringify(edit))])[0];

export interface SampleFile {
  name: string;
  text: string;
  printer: Printer;
}

/** Files of all conventions, those of other habits among them. */
export const sampleFiles: SampleFile[] = [
  ...conventions.map((form) => ({
    name: form.name,
    text: pieceText(form, { layers: SAMPLE_LAYERS, halfAt: (z) => 8 - z * 0.3 }),
    printer: form.tools ? twoTools : form.onOffFan ? { ...ladle, dialect: "valve" as const } : ladle,
  })),
  ...(
    [
      { comments: "none", busyStart: true, relative: true, primeMm: 0.2 },
      { comments: "from 1 with height", hop: "line", firstMm: 0.3 },
      { comments: "in brackets", hop: "by G91", relative: true },
      { comments: "German", commentBehindLift: true, lineEnd: "\r\n" },
      { comments: "from 0", oneByOne: true, relative: true, layers: SAMPLE_LAYERS },
      { comments: "of so many", byObject: { endsSooner: 2 } },
    ] as const
  ).map((habits) => ({
    name: JSON.stringify(habits),
    text: slicedIn({ layers: SAMPLE_LAYERS, ...habits }).text,
    printer: ladle,
  })),
  { name: "a deck over two posts", text: deckText(), printer: ladle },
];

/** Two posts with a deck on them, walls of an acceleration of their own. */
function deckText(): string {
  const lines = ["M140 S60", "M104 S215", "M190 S60", "M109 S215", "G28", "G21", "G90", "M83", "M106 S120"];
  const lay = (x: number, y: number, toX: number, z: number) =>
    lines.push(
      "G1 E-0.8 F2100",
      `G0 X${x} Y${y} Z${z} F6000`,
      "G1 E0.8 F2100",
      `G1 X${toX} Y${y} E${((toX - x) * 0.0338).toFixed(4)} F1500`,
    );
  for (let i = 1; i <= SAMPLE_LAYERS; i++) {
    const z = Number((i * 0.2).toFixed(2));
    lines.push(`; storey ${i}`, "M204 S800");
    const isDeck = i >= 6;
    for (let n = 0; n < (isDeck ? 8 : 2); n++) {
      const y = Number((100 + 0.4 * n).toFixed(1));
      if (isDeck) lay(40, y, 64, z);
      else {
        lay(40, y, 44, z);
        lay(60, y, 64, z);
      }
    }
    lines.push("M204 S2000");
  }
  return [...lines, "G1 E-2 F2100", "G91", "G0 Z10 F600", "G90", "M107", "M104 S0", "M140 S0", "M84", ""].join("\n");
}
