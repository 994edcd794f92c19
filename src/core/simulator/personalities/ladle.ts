import { Personality } from "../personality";
import { plainScreen, usualCapabilities } from "./usual";

/** Feeds too little, and its bed sits off its centre. */
export const ladle: Personality = {
  firmwareName: "Skillet 2.1.4",
  banner: ["start", "echo:Skillet 2.1.4 on a Ladle board", "echo:saved values loaded"],
  reportPrefix: "echo:  ",
  capabilities: { ...usualCapabilities, FIRMWARE_RETRACTION: true },
  unknown: (command) => `echo:Unknown command: "${command}"`,
  resendSaysOk: true,
  screen: plainScreen,
  valueFamilies: ["steps", "limits", "accelerations", "jerk", "home", "retraction", "nozzlePid", "bedPid", "advance"],
  truths: {
    extruderFeed: [0.973],
    axisLength: { x: 1, y: 1.0042, z: 1 },
    bedCentreOffsetMm: { x: 1.4, y: -2.1 },
    slipFlowMm3S: 11.5,
    slipFlowPerC: 0.08,
    nozzleReadsHighC: 0,
  },
};
