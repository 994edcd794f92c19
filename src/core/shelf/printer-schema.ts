/** A printer's record as it comes over a border. Every length in mm, speed in mm/s, acceleration in mm/s², temperature in °C. */
import { z } from "zod";
import { dialectKeys } from "../machine/dialects";
import { figure } from "./figure";
import { nameSchema, plainText } from "./name";

/** Lines of a program with `{{names}}`; see `printing/template.ts` for the names. */
const lines = (what: string) => z.string({ error: `${what} must be text` }).max(20_000, `${what} are too long`);

/** One machine as it stands. Figures that came later have a value most printers share, so that older records stay good. */
export const printerSchema = z.object({
  name: nameSchema("printer", 60),
  bedShape: z.enum(["rectangle", "round"], { error: "The bed is a rectangle or round" }).default("rectangle"),
  /** X size, or the diameter of a round bed. */
  bedWidthMm: figure(40, 2000, "Bed width"),
  bedDepthMm: figure(40, 2000, "Bed depth"),
  /** Where X0 Y0 is. */
  bedOrigin: z.enum(["corner", "centre"], { error: "The origin is a corner or the centre" }).default("corner"),
  buildHeightMm: figure(20, 2000, "Build height"),
  nozzleMm: figure(0.1, 2, "Nozzle").default(0.4),
  highestNozzleC: figure(150, 500, "Highest nozzle temperature").default(260),
  highestBedC: figure(0, 200, "Highest bed temperature").default(100),
  dialect: z.enum(dialectKeys, { error: `The dialect is one of ${dialectKeys.join(", ")}` }).default("jerk"),
  tools: z
    .int({ error: "Tools are counted in whole numbers" })
    .min(1, "At least one tool")
    .max(8, "At most 8 tools")
    .default(1),
  fanPerTool: z.boolean().default(false),
  /** A program must say itself where the further tools stand from the first (M218). */
  offsetsInProgram: z.boolean().default(false),
  /** Duty (0–255) below which the fan does not turn. */
  smallestTurningDuty: z
    .int({ error: "A duty is a whole number" })
    .min(0, "A duty is at least 0")
    .max(255, "A duty is at most 255")
    .default(15),
  printAccelerationMmS2: figure(10, 50_000, "Print acceleration").default(1000),
  travelAccelerationMmS2: figure(10, 50_000, "Travel acceleration").default(1000),
  retractAccelerationMmS2: figure(10, 50_000, "Retract acceleration").default(1500),
  /** The Z axis and the extruder gain speed no faster than this. */
  highestAccelerationZMmS2: figure(1, 50_000, "Highest Z acceleration").default(100),
  highestAccelerationEMmS2: figure(10, 100_000, "Highest extruder acceleration").default(10_000),
  jerkMmS: figure(0.1, 100, "Jerk").default(8),
  jerkZMmS: figure(0.01, 100, "Z jerk").default(0.4),
  jerkEMmS: figure(0.1, 200, "Extruder jerk").default(5),
  junctionDeviationMm: figure(0.001, 1, "Junction deviation").default(0.02),
  /** Moves the firmware plans ahead, the one under way included. */
  lookAheadMoves: z
    .int({ error: "Moves are counted in whole numbers" })
    .min(2, "At least 2 moves")
    .max(1000, "At most 1000 moves")
    .default(16),
  highestFeedXyMmS: figure(5, 2000, "Highest feed X Y").default(300),
  highestFeedZMmS: figure(0.5, 500, "Highest feed Z").default(10),
  highestFeedEMmS: figure(1, 500, "Highest feed E").default(50),
  highestFlowMm3S: figure(0.5, 200, "Highest flow").default(11),
  heaterRiseCPerS: figure(0.2, 50, "Heating rate").default(2.5),
  heaterFallCPerS: figure(0.1, 20, "Cooling rate").default(1),
  heaterLagS: figure(0, 60, "Nozzle lag").default(5),
  retractionMm: figure(0, 20, "Retraction").default(4),
  retractionMmS: figure(1, 200, "Retraction speed").default(35),
  /** The firmware draws the filament back itself (G10, G11) instead of by E moves. */
  firmwareRetraction: z.boolean().default(false),
  hopMm: figure(0, 5, "Lift while travelling").default(0),
  /** Time in which the part fan comes to two thirds of a new speed. */
  fanRunUpS: figure(0, 30, "Fan run-up").default(1.5),
  pressureAdvanceS: figure(0, 10, "Pressure advance").default(0),
  /** What stands round the nozzle: the flank of its cone against the horizontal, and the body above it. */
  nozzleConeDegrees: figure(5, 85, "Nozzle cone").default(35),
  headRadiusMm: figure(2, 200, "Head radius").default(28),
  headHeightMm: figure(0.5, 100, "Head height above the nozzle's tip").default(6),
  /** Walls and a door round it, that hold the warmth. */
  enclosed: z.boolean().default(false),
  /** Letters that a line of its screen shows; 0 for as many as there are. And those it does not have, or stumbles over. */
  screenLetters: z
    .int({ error: "The number of characters is a whole number" })
    .min(0, "A screen shows 0 characters (no limit) or more")
    .max(200, "At most 200 characters")
    .default(20),
  screenLacks: plainText("What the screen lacks", 40).default(""),
  /** Figures that are the firmware's own, by name, and when it last said so: files need not say them. */
  firmwareOwn: z.record(z.string().max(60), z.iso.datetime()).default({}),
  startLines: lines("Start lines"),
  endLines: lines("End lines"),
});

export type Printer = z.infer<typeof printerSchema>;
