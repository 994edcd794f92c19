import { COLDEST_FEED_C } from "../../material/materials";
import { plainNumber } from "../../units";
import { ProgramCheck } from "../check";

/** Filament pushed through a nozzle that was never heated, or not enough: by a line that lays or by one that only feeds. */
export const coldExtrusion: ProgramCheck = {
  key: "cold-extrusion",
  passes: null,
  run({ report: { facts }, trial }) {
    const { coldFeed, unknownCommands } = facts;
    if (!coldFeed) return [];
    const never = coldFeed.value === 0;
    const mended = trial ? " Heat it before that with M109 S{{nozzleFirst}}." : "";
    const unsure = unknownCommands && never ? " One of the commands that are not known here may heat it." : "";
    return [
      {
        check: "cold-extrusion",
        severity: unsure ? "warn" : "stop",
        where: `line ${coldFeed.line}`,
        message: never
          ? `Filament is pushed before the nozzle is heated.${mended}${unsure}`
          : `Filament is pushed at ${plainNumber(coldFeed.value, 0)} °C; below ${COLDEST_FEED_C} °C it does not melt.${mended}`,
        ...(trial ? { mend: { label: "Look at the printer's start lines", open: "printer" as const } } : {}),
      },
    ];
  },
};
