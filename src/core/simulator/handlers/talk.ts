import type { Handlers } from "../parts";

export const talkHandlers: Handlers = {
  T({ printer, state }) {
    return state.tool < printer.tools ? undefined : "unknown";
  },
  M73() {},
  M110(parts, line) {
    parts.countFrom(line.has("N") ? line.value("N") : (line.number ?? 0));
  },
  M114({ memory, say, state }) {
    const { x, y, z, e, offsetX, offsetY, offsetZ, offsetE } = state;
    const steps = (axis: "X" | "Y" | "Z", mm: number) => Math.round(mm * memory.get(`steps${axis}`, 80));
    const at = (mm: number) => mm.toFixed(2);
    say(
      `X:${at(x - offsetX)} Y:${at(y - offsetY)} Z:${at(z - offsetZ)} E:${at(e - offsetE)} Count X:${steps("X", x)} Y:${steps("Y", y)} Z:${steps("Z", z)}`,
    );
  },
  M115({ personality, printer, say }) {
    say(
      `FIRMWARE_NAME:${personality.firmwareName} PROTOCOL_VERSION:1.0 MACHINE_TYPE:${printer.name} EXTRUDER_COUNT:${printer.tools}`,
    );
    for (const [name, can] of Object.entries(personality.capabilities)) say(`Cap:${name}:${can ? 1 : 0}`);
  },
  M118: ({ say }, line) => say(line.text),
  M500({ memory, say }) {
    memory.save();
    say("echo:values saved");
  },
  M501({ memory, say }) {
    memory.load();
    say("echo:saved values loaded");
  },
  M502({ memory, say }) {
    memory.toFactory();
    say("echo:factory values loaded");
  },
  M503({ memory, personality, say }) {
    for (const line of memory.report()) say(personality.reportPrefix + line);
  },
  SAVE_CONFIG({ memory }) {
    memory.save();
    return { over: ({ extrusion }) => extrusion.planner.empty, then: (parts) => parts.restartSoon() };
  },
};
