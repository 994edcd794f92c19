/** What a printer was told so far: the state it is in if the talk ends here. */
import { feedMmMinToMmS, MM_PER_INCH } from "../units";
import { readTalkLine, TalkLine, wordOf } from "./commands/line";

export interface Told {
  /** Set temperature by tool, °C. */
  nozzleC: number[];
  bedC: number;
  /** Duty by fan, 0–255. */
  fanDuty: number[];
  tool: number;
  /** Null until homed or named. */
  xMm: number | null;
  yMm: number | null;
  zMm: number | null;
  homed: boolean;
  motorsOn: boolean;
  relative: boolean;
  relativeE: boolean;
  feedMmS: number;
}

export function nothingTold(): Told {
  return {
    nozzleC: [],
    bedC: 0,
    fanDuty: [],
    tool: 0,
    xMm: null,
    yMm: null,
    zMm: null,
    homed: false,
    motorsOn: false,
    relative: false,
    relativeE: false,
    feedMmS: 50,
  };
}

/** Follows one line that the printer has taken; changes `told`. */
export function follow(told: Told, text: string, inches = false): void {
  const line = readTalkLine(text);
  const figure = (name: string) => wordOf(line, name);
  switch (line.code) {
    case "G0":
    case "G1":
    case "G2":
    case "G3":
      return followMove(told, line, inches ? MM_PER_INCH : 1);
    case "G28": {
      const named = line.words.map(({ name }) => name).filter((name) => "XYZ".includes(name));
      if (named.length === 0) told.homed = true;
      for (const axis of named.length > 0 ? named : ["X", "Y", "Z"]) told[placeOf(axis)] = 0;
      told.motorsOn = true;
      return;
    }
    case "G90":
      told.relative = told.relativeE = false;
      return;
    case "G91":
      told.relative = told.relativeE = true;
      return;
    case "M82":
      told.relativeE = false;
      return;
    case "M83":
      told.relativeE = true;
      return;
    case "G92":
      for (const axis of ["X", "Y", "Z"]) {
        const value = figure(axis);
        if (value !== undefined) told[placeOf(axis)] = value;
      }
      return;
    case "M104":
    case "M109":
      told.nozzleC[figure("T") ?? told.tool] = figure("R") ?? figure("S") ?? 0;
      return;
    case "M140":
    case "M190":
      told.bedC = figure("R") ?? figure("S") ?? 0;
      return;
    case "M106":
      told.fanDuty[figure("P") ?? 0] = figure("S") ?? 255;
      return;
    case "M126":
      told.fanDuty[0] = 255;
      return;
    case "M107":
    case "M127":
      told.fanDuty[figure("P") ?? 0] = 0;
      return;
    case "M18":
    case "M84":
      // Named axes alone leave the others where they are.
      if (line.words.some(({ name }) => "XYZE".includes(name))) return;
      told.motorsOn = told.homed = false;
      return;
    case "M112":
      Object.assign(told, nothingTold());
      return;
    default:
      if (/^T\d+$/.test(line.code)) told.tool = Number(line.code.slice(1));
  }
}

const placeOf = (axis: string) => `${axis.toLowerCase()}Mm` as "xMm" | "yMm" | "zMm";

function followMove(told: Told, line: TalkLine, scale: number): void {
  told.motorsOn = true;
  for (const { name, value } of line.words) {
    if (Number.isNaN(value)) continue;
    if (name === "F" && value > 0) told.feedMmS = feedMmMinToMmS(value * scale);
    if (name !== "X" && name !== "Y" && name !== "Z") continue;
    const place = placeOf(name);
    if (!told.relative) told[place] = value * scale;
    else if (told[place] !== null) told[place] += value * scale;
  }
}

/** Whether any heater was told to be warm. */
export function isHeating(told: Told): boolean {
  return told.bedC > 0 || told.nozzleC.some((target) => target > 0);
}
