/** One figure that a firmware keeps and that can be changed by a line. */
export interface FirmwareValue {
  /** `extruderSteps` */
  key: string;
  group: ValueGroup;
  label: string;
  unit: string;
  /** What it does, in one sentence. */
  meaning: string;
  /** `M92` */
  command: string;
  /** Letter or key of the figure in that command. */
  word: string;
  lowest: number;
  highest: number;
  decimals: number;
  /** The word that names the tool, where every tool has a figure of its own. */
  toolWord?: string;
  /** The name it is reported by where that is not its command: `pressure_advance: 0.04`. */
  reportedAs?: string;
  /** The line carries so many times the figure (mm/min where the figure is in mm/s). */
  lineFactor?: number;
}

export const valueGroups = {
  steps: "Steps",
  speed: "Speed and acceleration",
  cornering: "Cornering",
  extrusion: "Retraction and pressure",
  heat: "Heat",
  place: "Place",
} as const;

export type ValueGroup = keyof typeof valueGroups;

/** Which value of which tool: `extruderSteps`, `extruderSteps@1`. */
export function valueId(key: string, tool: number | null): string {
  return tool === null || tool === 0 ? key : `${key}@${tool}`;
}
