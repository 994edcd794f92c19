/** What holds at a line of a program, in words: the machine's state as the table of commands has left it. */
import { MachineState } from "../machine/state";
import { plainNumber } from "../units";

export interface Held {
  label: string;
  text: string;
}

/** The state in words; what nobody has said is left out. */
export function sayState(state: MachineState): Held[] {
  const { unitMm, relative, relativeE, tool, speedPercent } = state;
  const known = (...figures: number[]) => figures.every((figure) => !Number.isNaN(figure));
  const held: Held[] = [];
  const add = (label: string, text: string, says = true) => {
    if (says) held.push({ label, text });
  };
  add(
    "Counts",
    `in ${unitMm === 1 ? "millimetres" : "inches"}, positions from ${relative ? "where it stands" : "zero"}, filament from ${relativeE ? "where it stands" : "zero"}`,
  );
  const { x, y, z, offsetX, offsetY, offsetZ } = state;
  const named = { x: x - offsetX, y: y - offsetY, z: z - offsetZ };
  const shifted = offsetX !== 0 || offsetY !== 0 || offsetZ !== 0;
  add("Stands at", `X${plainNumber(x)} Y${plainNumber(y)} Z${plainNumber(z)} mm`, state.knownX || state.knownZ);
  add("Calls that", `X${plainNumber(named.x)} Y${plainNumber(named.y)} Z${plainNumber(named.z)} mm`, shifted);
  add(
    "Feed",
    `${plainNumber(state.feedMmMin / 60, 2)} mm/s${speedPercent === 100 ? "" : `, at ${plainNumber(speedPercent)} % of it`}`,
  );
  add("Tool", String(tool), tool > 0 || state.nozzleC.length > 1);
  state.nozzleC.forEach((target, index) =>
    add(state.nozzleC.length > 1 ? `Nozzle ${index}` : "Nozzle", `${plainNumber(target, 1)} °C`, known(target)),
  );
  add("Bed", `${plainNumber(state.bedC, 1)} °C`, known(state.bedC));
  state.fanDuty.forEach((duty, index) =>
    add(state.fanDuty.length > 1 ? `Fan ${index}` : "Fan", `${plainNumber((duty * 100) / 255, 0)} %`, known(duty)),
  );
  const flow = state.flowPercent[tool];
  add("Flow", `${plainNumber(flow ?? 100, 1)} %`, flow !== undefined && flow !== 100);
  const { printAccelerationMmS2: print, travelAccelerationMmS2: travel } = state;
  add("Acceleration", `${plainNumber(print, 0)} mm/s² printing`, known(print));
  add("Acceleration, travelling", `${plainNumber(travel, 0)} mm/s²`, known(travel));
  add("Jerk", `${plainNumber(state.jerkMmS.x, 2)} mm/s`, known(state.jerkMmS.x));
  add("Junction deviation", `${plainNumber(state.junctionDeviationMm, 4)} mm`, known(state.junctionDeviationMm));
  const advance = state.pressureAdvanceS[tool];
  add("Pressure advance", `${plainNumber(advance ?? 0, 4)} s`, advance !== undefined && known(advance));
  add("Firmware draws back", `${plainNumber(state.retractionMm, 3)} mm`, known(state.retractionMm));
  add("Display", `“${state.display}”`, state.display !== "");
  return held;
}
