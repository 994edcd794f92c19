import { Personality } from "../personality";
import { usualCapabilities } from "./usual";

/** An old printer: fan on or off, few values, and a screen on which a colon ends the text. */
export const kettle: Personality = {
  firmwareName: "Kettle 1.0",
  banner: ["start"],
  reportPrefix: "",
  capabilities: { EEPROM: usualCapabilities.EEPROM, AUTOREPORT_TEMP: false, EMERGENCY_STOP: false },
  unknown: (command) => `echo:Unknown command: "${command}"`,
  resendSaysOk: true,
  screen: (text) =>
    text
      .split(":", 1)[0]
      .replace(/[^\x20-\x7e]/g, "")
      .slice(0, 16),
  valueFamilies: ["steps", "limits", "accelerations", "jerk", "home", "nozzlePid"],
  truths: {
    extruderFeed: [0.941],
    axisLength: { x: 1, y: 0.9966, z: 1 },
    bedCentreOffsetMm: { x: 2.3, y: 0.4 },
    slipFlowMm3S: 8.5,
    slipFlowPerC: 0.06,
    nozzleReadsHighC: 6,
  },
};
