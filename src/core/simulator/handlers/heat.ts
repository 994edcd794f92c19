import { TalkLine, wordOf } from "../../firmware/commands/line";
import { Heater } from "../heater";
import type { SimulatedPrinter, Wait } from "../machine";
import { RelayTune } from "../relay";
import { Handlers } from "./handler";

/** Within this of its set value for so long, a heater counts as there. Common practice, no source. */
const THERE_WITHIN_C = 1.5;
const THERE_FOR_S = 2;
const HOTTEST_C = 320;

const nozzleOf = (machine: SimulatedPrinter, line: TalkLine): Heater | undefined =>
  machine.nozzles[wordOf(line, "T") ?? machine.tool];

function set(machine: SimulatedPrinter, heater: Heater | undefined, targetC: number | undefined): void {
  if (!heater) return machine.say("echo:no such tool");
  if (targetC !== undefined) heater.setC = Math.min(HOTTEST_C, Math.max(0, targetC));
}

function setAndWait(machine: SimulatedPrinter, heater: Heater | undefined, line: TalkLine): Wait | void {
  const heating = wordOf(line, "S");
  const both = wordOf(line, "R");
  set(machine, heater, both ?? heating);
  if (!heater || heater.setC === 0) return;
  if (both === undefined && heater.trueC > heater.setC) return;
  let thereSinceS: number | null = null;
  return {
    reportsHeat: true,
    over({ nowS }) {
      if (Math.abs(heater.trueC - heater.setC) > THERE_WITHIN_C) thereSinceS = null;
      else thereSinceS ??= nowS;
      return thereSinceS !== null && nowS - thereSinceS >= THERE_FOR_S;
    },
  };
}

function fan(machine: SimulatedPrinter, line: TalkLine, duty: number): void {
  const index = wordOf(line, "P") ?? (machine.printer.fanPerTool ? machine.tool : 0);
  if (index in machine.fanDuty) machine.fanDuty[index] = Math.min(255, Math.max(0, Math.round(duty)));
}

const hasValve = ({ printer }: SimulatedPrinter) => printer.dialect === "valve";

export const heatHandlers: Handlers = {
  M104: (machine, line) => set(machine, nozzleOf(machine, line), wordOf(line, "S")),
  M109: (machine, line) => setAndWait(machine, nozzleOf(machine, line), line),
  M140: (machine, line) => set(machine, machine.bed, wordOf(line, "S")),
  M190: (machine, line) => setAndWait(machine, machine.bed, line),
  M105() {},
  M108: (machine) => machine.stopWaiting(),
  M155(machine, line) {
    if (!machine.personality.capabilities.AUTOREPORT_TEMP) return "unknown";
    machine.setReportEvery(Math.min(60, Math.max(0, wordOf(line, "S") ?? 0)));
  },
  M106: (machine, line) => (hasValve(machine) ? "unknown" : fan(machine, line, wordOf(line, "S") ?? 255)),
  M107: (machine, line) => (hasValve(machine) ? "unknown" : fan(machine, line, 0)),
  M126: (machine, line) => (hasValve(machine) ? fan(machine, line, 255) : "unknown"),
  M127: (machine, line) => (hasValve(machine) ? fan(machine, line, 0) : "unknown"),
  M303(machine, line) {
    const which = wordOf(line, "E") ?? 0;
    const heater = which < 0 ? machine.bed : machine.nozzles[which];
    if (!heater) return machine.say("echo:no such heater");
    if (which < 0 && !machine.memory.has("M304")) return "unknown";
    if (which >= 0 && !machine.memory.has("M301")) return "unknown";
    const target = Math.min(HOTTEST_C, wordOf(line, "S") ?? (which < 0 ? 60 : 200));
    const cycles = Math.min(20, Math.max(3, wordOf(line, "C") ?? 5));
    heater.setC = target;
    machine.tune = { relay: new RelayTune(target, cycles), heater, tool: which };
    return { over: ({ tune }) => tune === null };
  },
};
