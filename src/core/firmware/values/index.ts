/** All firmware values. A new one is one line in the file of its group. */
import { cornering } from "./cornering";
import { extrusion } from "./extrusion";
import { heat } from "./heat";
import { place } from "./place";
import { speed } from "./speed";
import { steps } from "./steps";
import { FirmwareValue } from "./value";

export const firmwareValues: FirmwareValue[] = [...steps, ...speed, ...cornering, ...extrusion, ...heat, ...place];

/** The value behind an id (`extruderSteps@1`) with its tool; undefined if there is none. */
export function valueFor(id: string): { definition: FirmwareValue; tool: number } | undefined {
  const [key, tool = "0"] = id.split("@", 2);
  const definition = firmwareValues.find((value) => value.key === key);
  const index = Number(tool);
  return definition && Number.isInteger(index) && index >= 0 && index < 16 ? { definition, tool: index } : undefined;
}
