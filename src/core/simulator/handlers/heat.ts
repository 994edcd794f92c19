import type { TalkLine } from "../../gcode/talk-line";
import type { Heater } from "../heater";
import type { Handlers, Parts, Wait } from "../parts";
import { RelayTune } from "../relay";

/** Within this of its set value for so long, a heater counts as there. Common practice, no source. */
const THERE_WITHIN_C = 1.5;
const THERE_FOR_S = 2;

/** Sends the heater to what the state says it was told, and says so if there is no such heater. */
function send({ heat, state, say }: Parts, line: TalkLine, isBed: boolean): Heater | null {
  const tool = isBed ? null : line.has("T") ? line.value("T") : state.tool;
  const told = tool === null ? state.bedC : state.nozzleC[tool];
  const heater = heat.send(tool, Number.isNaN(told ?? NaN) ? 0 : told);
  if (!heater) say("echo:no such tool");
  return heater;
}

/** Until a heater is there. R waits for cooling too. */
function untilThere(heater: Heater | null, line: TalkLine): Wait | void {
  if (!heater || heater.setC === 0) return;
  const whileCooling = line.has("R") && !line.has("S");
  if (!whileCooling && heater.trueC > heater.setC) return;
  return untilAllThere([heater]);
}

function untilAllThere(heaters: Heater[]): Wait {
  let thereSinceS: number | null = null;
  return {
    reportsHeat: true,
    over({ nowS }) {
      if (heaters.some(({ trueC, setC }) => Math.abs(trueC - setC) > THERE_WITHIN_C)) thereSinceS = null;
      else thereSinceS ??= nowS;
      return thereSinceS !== null && nowS - thereSinceS >= THERE_FOR_S;
    },
  };
}

/** Sends every heater to what the state says it was told. */
export function sendAllTold({ heat, state }: Parts): void {
  if (!Number.isNaN(state.bedC)) heat.send(null, state.bedC);
  state.nozzleC.forEach((target, tool) => {
    if (!Number.isNaN(target)) heat.send(tool, target);
  });
}

export const heatHandlers: Handlers = {
  M104: (parts, line) => void send(parts, line, false),
  M109: (parts, line) => untilThere(send(parts, line, false), line),
  M140: (parts, line) => void send(parts, line, true),
  M190: (parts, line) => untilThere(send(parts, line, true), line),
  SET_HEATER_TEMPERATURE: (parts) => sendAllTold(parts),
  M105() {},
  M108: (parts) => parts.stopWaiting(),
  M116({ heat }) {
    const on = heat.all.filter(({ setC, trueC }) => setC > 0 && trueC < setC);
    return on.length > 0 ? untilAllThere(on) : undefined;
  },
  M155(parts, line) {
    if (!parts.personality.capabilities.AUTOREPORT_TEMP) return "unknown";
    const seconds = line.value("S");
    parts.setReportEvery(Number.isNaN(seconds) ? 0 : Math.min(60, Math.max(0, seconds)));
  },
  M303({ heat, memory, printer, say }, line) {
    const which = line.has("E") ? line.value("E") : 0;
    const heater = which < 0 ? heat.bed : heat.nozzles[which];
    if (!heater) return say("echo:no such heater");
    if (!memory.has(which < 0 ? "M304" : "M301")) return "unknown";
    const wanted = line.has("S") ? line.value("S") : which < 0 ? 60 : 200;
    const target = Math.min(which < 0 ? printer.highestBedC : printer.highestNozzleC, wanted);
    const cycles = Math.min(20, Math.max(3, line.has("C") ? line.value("C") : 5));
    heater.setC = target;
    heat.tune = { relay: new RelayTune(target, cycles), heater, tool: which };
    return { over: () => heat.tune === null };
  },
};
