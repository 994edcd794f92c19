import { Personality } from "../personality";
import { plainScreen, usualCapabilities } from "./usual";

/** Two tools that feed differently; counts its feeds in mm/min. */
export const twin: Personality = {
  firmwareName: "Griddle 3.2",
  banner: ["Griddle 3.2 is ready", "start"],
  reportPrefix: "",
  capabilities: { ...usualCapabilities, FIRMWARE_RETRACTION: true },
  unknown: (command) => `Error: ${command} is not supported`,
  resendSaysOk: true,
  screen: plainScreen,
  valueFamilies: [
    "steps",
    "limits",
    "accelerations",
    "jerkPerMinute",
    "home",
    "retraction",
    "nozzlePid",
    "bedPid",
    "advancePerTool",
  ],
  truths: {
    extruderFeed: [0.982, 1.024],
    axisLength: { x: 1, y: 1, z: 1.002 },
    bedCentreOffsetMm: { x: 0.6, y: 1.7 },
    slipFlowMm3S: 11,
    slipFlowPerC: 0.08,
    nozzleReadsHighC: -3,
  },
};
