/** A tune as a file, for people without a cable. */
import { dialects } from "../machine/dialects";
import { valueFor } from "../firmware/values";
import { valueLine } from "../firmware/values/change";
import { plainNumber } from "../units";
import { toolOf, Tune, TuneRequest } from "./tune";

/** Lines that bring the heaters to where the tune wants them, and wait. */
export function heatLines(tune: Tune, request: TuneRequest): string[] {
  const heat = tune.heat(request);
  if (!heat) return [];
  const { nozzleC, bedC } = heat;
  const named = toolWord(tune, request);
  return [
    ...(bedC === undefined ? [] : [`M140 S${plainNumber(bedC, 0)}`]),
    ...(nozzleC === undefined ? [] : [`M104 S${plainNumber(nozzleC, 0)}${named}`]),
    ...(bedC === undefined ? [] : [`M190 S${plainNumber(bedC, 0)}`]),
    ...(nozzleC === undefined ? [] : [`M109 S${plainNumber(nozzleC, 0)}${named}`]),
  ];
}

/** ` T1` where the tool must be named. */
function toolWord({ perTool }: Tune, request: TuneRequest): string {
  return perTool && request.printer.tools > 1 ? ` T${toolOf(request)}` : "";
}

/** Lines that make the printer act, with the tool chosen first where there are several. */
export function actLines(tune: Tune, request: TuneRequest): string[] {
  const chosen = toolWord(tune, request).trim();
  const lines = tune.act(request);
  return chosen === "" || lines.length === 0 ? lines : [chosen, ...lines];
}

/** Lines that switch off again what the tune switched on. */
export function coolLines(tune: Tune, request: TuneRequest): string[] {
  const heat = tune.heat(request);
  if (!heat) return [];
  return [
    ...(heat.nozzleC === undefined ? [] : [`M104 S0${toolWord(tune, request)}`]),
    ...(heat.bedC === undefined ? [] : ["M140 S0"]),
  ];
}

/**
 * The whole tune as a program: sets the figures it starts from (those it is given), heats, homes, acts, switches the heaters off
 * and leaves the extruder's motor holding, so that the filament stays where it was fed to.
 */
export function tuneProgram(tune: Tune, request: TuneRequest): string {
  const { printer, values } = request;
  const { feedsPerMinute } = dialects[printer.dialect];
  const starts = tune.uses(request).flatMap((id) => {
    const found = valueFor(id);
    return found && values[id] !== undefined
      ? [valueLine(found.definition, found.tool, values[id], feedsPerMinute, printer.tools)]
      : [];
  });
  const act = actLines(tune, request);
  const homes = act.some((line) => line.startsWith("G28")) || tune.heat(request) === null ? [] : ["G28"];
  const lifts = homes.length > 0 ? ["G90", "G1 Z30 F600"] : [];
  return [
    `; ${tune.title}, ${printer.name}`,
    `; before: ${tune.before}`,
    `; after: ${tune.after || "nothing to measure"}`,
    ...starts,
    ...heatLines(tune, request),
    ...homes,
    ...lifts,
    ...act,
    ...coolLines(tune, request),
    // The extruder goes on holding.
    "M84 X Y Z",
    "",
  ].join("\n");
}
