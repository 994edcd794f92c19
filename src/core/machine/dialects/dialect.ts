/** What a printer's language can do, under a neutral name. */
import { refuse, Result, succeed } from "../../result";
import { plainNumber } from "../../units";

export interface FanIndex {
  /** Fan index to name in the command, or null where there is one fan only. */
  index: number | null;
}

/** Commands that not every printer has, by what they are for: each dialect says which of them it takes. Common practice, no source. */
export const dutyFan = ["M106", "M107"];
export const valveFan = ["M126", "M127"];
export const savedValues = ["M92", "M206", "M500", "M501", "M502", "M503", "M851"];
export const limitsByAxis = ["M201", "M203", "M204"];
export const jerkPerSecond = ["M205"];
export const jerkPerMinute = ["M566"];
export const advanceByK = ["M900"];
export const advanceByDrive = ["M572"];
export const firmwareRetraction = ["M207", "M208"];
export const namedCommands = [
  "SET_VELOCITY_LIMIT",
  "SET_PRESSURE_ADVANCE",
  "SET_RETRACTION",
  "SET_HEATER_TEMPERATURE",
  "SAVE_CONFIG",
];

/** What most of them take. */
export const usualCommands = [dutyFan, savedValues, limitsByAxis, jerkPerSecond, advanceByK, firmwareRetraction].flat();

export const ownCommands: ReadonlySet<string> = new Set([
  ...[dutyFan, valveFan, savedValues, limitsByAxis, jerkPerSecond, jerkPerMinute].flat(),
  ...[advanceByK, advanceByDrive, firmwareRetraction, namedCommands].flat(),
]);

export interface Dialect {
  label: string;
  /** One sentence for the person who must choose. */
  explains: string;
  /** Which commands it takes of those that not every printer has. */
  takes: ReadonlySet<string>;
  /** Whether the part fan has a duty, or is only on or off. */
  fanHasDuty: boolean;
  /** Which cornering value the firmware has. */
  cornering: "jerk" | "junctionDeviation";
  /** The line that sets the part fan to a duty of 0–255. */
  fanLine(duty: number, fan: FanIndex): Result<string>;
  /** One acceleration for printing and travelling alike. */
  accelerationIsShared: boolean;
  /** The line that sets how fast printing moves speed up, mm/s²; travel and retraction stay as they are where they can. */
  accelerationLine(accelerationMmS2: number): Result<string>;
  /** The line that sets cornering: jerk in mm/s or junction deviation in mm, whichever the firmware has. */
  corneringLine(value: number): Result<string>;
  /** The line that sets pressure advance, s. */
  pressureAdvanceLine(seconds: number, tool: number): Result<string>;
  /** Feeds and jerks are told in mm/min, not in mm/s. */
  feedsPerMinute: boolean;
  /** G90 and G91 say how the extruder counts too; otherwise M82 and M83 alone do. */
  modesCarryE: boolean;
  /** G10 with P and S sets the temperature of a tool. */
  setsToolsByG10: boolean;
  /** Heaters it finds the regulation of by itself, and says it so that it can be read. */
  autotunes: readonly ("nozzle" | "bed")[];
  /** Values are set by named commands, and reported by name. */
  namedValues: boolean;
  /** Steps per millimetre can be set by a line. */
  stepsByLine: boolean;
  /** The home offset (M206) can be set by a line. */
  homeOffsetByLine: boolean;
  /** Lines that make it report its values. */
  valueQuestions: string[];
  /** The line that saves the values in force. */
  saveLine: string;
  /** The line that loads the saved values; null where saving starts the printer anew. */
  reloadLine: string | null;
  /** The line that sets the firmware's own retraction; either figure alone. */
  firmwareRetractionLine(figures: { lengthMm?: number; speedMmS?: number }): Result<string>;
}

/** `M106` and `M107` with a duty, as most dialects have them. */
export function dutyFanLine(duty: number, { index }: FanIndex): Result<string> {
  const named = index === null ? "" : ` P${index}`;
  return { ok: true, value: duty === 0 ? `M107${named}` : `M106${named} S${duty}` };
}

/** What most dialects share; each overrides what it says in its own way. Common practice, no source. */
export const commonDialect = {
  fanHasDuty: true,
  cornering: "jerk",
  accelerationIsShared: false,
  feedsPerMinute: false,
  modesCarryE: true,
  setsToolsByG10: false,
  autotunes: ["nozzle", "bed"],
  namedValues: false,
  stepsByLine: true,
  homeOffsetByLine: true,
  valueQuestions: ["M503"],
  saveLine: "M500",
  reloadLine: "M501",
  fanLine: dutyFanLine,
  accelerationLine: (accelerationMmS2) => succeed(`M204 P${plainNumber(accelerationMmS2, 0)}`),
  corneringLine: (jerkMmS) => succeed(`M205 X${plainNumber(jerkMmS, 2)} Y${plainNumber(jerkMmS, 2)}`),
  pressureAdvanceLine: (seconds) => succeed(`M900 K${plainNumber(seconds, 4)}`),
  firmwareRetractionLine({ lengthMm, speedMmS }) {
    const length = lengthMm === undefined ? "" : ` S${plainNumber(lengthMm, 3)}`;
    const speed = speedMmS === undefined ? "" : ` F${Math.round(speedMmS * 60)}`;
    return succeed(`M207${length}${speed}`);
  },
} satisfies Omit<Dialect, "label" | "explains" | "takes">;

/** A refusal with the reason and what can be done instead. */
export function cannot(what: string, instead: string): Result<string> {
  return refuse(`This printer's dialect has no command for ${what}: ${instead}`);
}
