import { wordOf } from "../../firmware/commands/line";
import { Handlers } from "./handler";

export const talkHandlers: Handlers = {
  T0: (machine) => void (machine.tool = 0),
  T1(machine) {
    if (machine.printer.tools < 2) return "unknown";
    machine.tool = 1;
  },
  M73() {},
  M110(machine, line) {
    machine.lastNumber = wordOf(line, "N") ?? line.number ?? 0;
  },
  M114(machine) {
    const { x, y, z, e } = machine.place;
    const steps = (axis: "X" | "Y" | "Z", mm: number) => Math.round(mm * machine.memory.get(`steps${axis}`, 80));
    const { shift } = machine;
    machine.say(
      `X:${x.toFixed(2)} Y:${y.toFixed(2)} Z:${z.toFixed(2)} E:${e.toFixed(2)} Count X:${steps("X", x + shift.x)} Y:${steps("Y", y + shift.y)} Z:${steps("Z", z + shift.z)}`,
    );
  },
  M115(machine) {
    const { personality, printer } = machine;
    machine.say(
      `FIRMWARE_NAME:${personality.firmwareName} PROTOCOL_VERSION:1.0 MACHINE_TYPE:${printer.name} EXTRUDER_COUNT:${printer.tools}`,
    );
    for (const [name, can] of Object.entries(personality.capabilities)) machine.say(`Cap:${name}:${can ? 1 : 0}`);
  },
  M117: (machine, line) => void (machine.display = machine.personality.screen(line.text)),
  M118: (machine, line) => machine.say(line.text),
  M500(machine) {
    if (machine.printer.dialect === "keyword") return "unknown";
    machine.memory.save();
    machine.say("echo:values saved");
  },
  M501(machine) {
    if (machine.printer.dialect === "keyword") return "unknown";
    machine.memory.load();
    machine.say("echo:saved values loaded");
  },
  M502(machine) {
    if (machine.printer.dialect === "keyword") return "unknown";
    machine.memory.toFactory();
    machine.say("echo:factory values loaded");
  },
  M503(machine) {
    if (machine.printer.dialect === "keyword") return "unknown";
    for (const line of machine.memory.report()) machine.say(machine.personality.reportPrefix + line);
  },
  SAVE_CONFIG(machine) {
    if (machine.printer.dialect !== "keyword") return "unknown";
    machine.memory.save();
    return { over: ({ planner }) => planner.empty, then: (printer) => printer.restartSoon() };
  },
};
