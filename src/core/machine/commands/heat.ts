import { Command } from "../command";
import { EventKind } from "../event-kind";
import { MachineState } from "../state";
import { Words } from "../words";

const pid = { P: "proportional part", I: "integral part", D: "derivative part" };

/** The tool a command is for: the one it names with T, else the one in use. Naming one does not choose it. */
export function toolOf(state: MachineState, words: Words): number {
  const named = words.value("T");
  return Number.isNaN(named) ? state.tool : named;
}

/** The target of a waiting heat: S waits while heating only, R while cooling too. S counts where both stand. */
function waitedTarget(words: Words): number {
  const heating = words.value("S");
  return Number.isNaN(heating) ? words.value("R") : heating;
}

/** Heating. Common practice, no source. */
export const heat: Command[] = [
  {
    code: "M104",
    does: "Sets the nozzle's temperature and goes on",
    words: { S: "°C to go to", T: "tool" },
    example: "M104 S200",
    // S alone sets the target: R is a word of M109, and none of this one.
    act(state, words, tell) {
      const target = words.value("S");
      if (!Number.isNaN(target)) tell(EventKind.nozzleTemperature, target, toolOf(state, words));
    },
  },
  {
    code: "M109",
    does: "Sets the nozzle's temperature and waits",
    words: { S: "°C, waits while heating", R: "°C, waits while heating or cooling", T: "tool" },
    example: "M109 S200",
    waits: "heat",
    act(state, words, tell) {
      const target = waitedTarget(words);
      if (!Number.isNaN(target)) tell(EventKind.nozzleTemperatureWait, target, toolOf(state, words));
    },
  },
  { code: "M105", does: "Asks for the temperatures", words: { T: "tool" }, asks: "temperatures" },
  { code: "M108", does: "Stops waiting for heat" },
  { code: "M116", does: "Waits until every heater is where it was sent", waits: "heat" },
  {
    code: "M140",
    does: "Sets the bed's temperature and goes on",
    words: { S: "°C to go to" },
    example: "M140 S60",
    act(_, words, tell) {
      const target = words.value("S");
      if (!Number.isNaN(target)) tell(EventKind.bedTemperature, target, 0);
    },
  },
  {
    code: "M190",
    does: "Sets the bed's temperature and waits",
    words: { S: "°C, waits while heating", R: "°C, waits while heating or cooling" },
    example: "M190 S60",
    waits: "heat",
    act(_, words, tell) {
      const target = waitedTarget(words);
      if (!Number.isNaN(target)) tell(EventKind.bedTemperatureWait, target, 0);
    },
  },
  {
    code: "M141",
    does: "Sets the temperature of the air around the print and goes on",
    words: { S: "°C to go to" },
  },
  {
    code: "M191",
    does: "Sets the temperature of the air around the print and waits",
    words: { S: "°C, waits while heating", R: "°C, waits while heating or cooling" },
    waits: "heat",
  },
  { code: "M155", does: "Reports temperatures by itself", words: { S: "every so many seconds, 0 for never" } },
  { code: "M301", does: "How the nozzle's heater is regulated (PID)", words: { ...pid, E: "nozzle" } },
  {
    code: "M303",
    does: "Finds the PID values by itself",
    words: {
      E: "nozzle, or -1 for the bed",
      S: "°C to swing about",
      C: "how many swings",
      U: "1 to use what it finds",
    },
    example: "M303 E0 S200 C5",
    waits: "tuning",
    danger: { kind: "heater", reason: "Heats up and swings about the temperature for some minutes." },
  },
  { code: "M304", does: "How the bed's heater is regulated (PID)", words: pid },
  {
    code: "SET_HEATER_TEMPERATURE",
    does: "Sets a heater's temperature and goes on",
    words: { HEATER: "which heater", TARGET: "°C to go to" },
    act(state, words, tell) {
      const target = words.value("TARGET");
      if (Number.isNaN(target)) return;
      const isBed = /HEATER=\S*bed/i.test(words.text);
      const tool = Number(/HEATER=[a-z_]*?(\d+)/i.exec(words.text)?.[1] ?? state.tool);
      if (isBed) tell(EventKind.bedTemperature, target, 0);
      else tell(EventKind.nozzleTemperature, target, tool);
    },
  },
];
