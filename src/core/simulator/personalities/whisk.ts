import { Personality } from "../personality";
import { plainScreen, usualCapabilities } from "./usual";

/** Feeds a little too much; answers a damaged line without an `ok`. */
export const whisk: Personality = {
  firmwareName: "Skillet 2.3.0",
  banner: ["start", "echo:Skillet 2.3.0 on a Whisk board"],
  reportPrefix: "echo: ",
  capabilities: { ...usualCapabilities, FIRMWARE_RETRACTION: true },
  unknown: (command) => `echo:Unknown command: "${command}"`,
  resendSaysOk: false,
  screen: plainScreen,
  values: () => ({ probeX: -24, probeY: -11, probeZ: -1.85 }),
  valueFamilies: [
    "steps",
    "limits",
    "accelerations",
    "deviation",
    "home",
    "retraction",
    "nozzlePid",
    "bedPid",
    "advance",
  ],
  truths: {
    extruderFeed: [1.018],
    axisLength: { x: 1.0031, y: 1, z: 1 },
    bedCentreOffsetMm: { x: -0.8, y: 0.9 },
    slipFlowMm3S: 16.5,
    slipFlowPerC: 0.1,
    nozzleReadsHighC: 4,
  },
};
