import { Personality } from "../personality";
import { plainScreen, usualCapabilities } from "./usual";

/** Takes commands with names; has no steps to set. */
export const sieve: Personality = {
  firmwareName: "Colander 0.11",
  banner: ["start", "// Colander 0.11 is ready"],
  reportPrefix: "// ",
  capabilities: { ...usualCapabilities, AUTOREPORT_TEMP: false, FIRMWARE_RETRACTION: true },
  unknown: (command) => `// Unknown command: ${command}`,
  resendSaysOk: true,
  screen: plainScreen,
  valueFamilies: ["named"],
  truths: {
    extruderFeed: [0.99],
    axisLength: { x: 1, y: 1, z: 1 },
    bedCentreOffsetMm: { x: -0.5, y: -0.3 },
    slipFlowMm3S: 18,
    slipFlowPerC: 0.12,
    nozzleReadsHighC: 2,
  },
};
