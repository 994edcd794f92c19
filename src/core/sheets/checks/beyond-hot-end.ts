import { mostFlowMm3S } from "../../report/flow";
import { plainNumber } from "../../units";
import type { SheetCheck } from "./check";

/** Beads that ask for more plastic than the hot end melts. */
export const beyondHotEnd: SheetCheck = {
  key: "beyond-flow",
  passes: "The hot end keeps up with the flow.",
  run({ report, printer, spool }) {
    const { flowMm3S, layer } = mostFlowMm3S(report, spool);
    if (flowMm3S <= printer.highestFlowMm3S * 1.005) return [];
    return [
      {
        check: "beyond-flow",
        severity: "warn",
        where: `layer ${layer + 1}`,
        message: `Up to ${plainNumber(flowMm3S, 1)} mm³/s is asked for; the hot end of ${printer.name} melts about ${plainNumber(printer.highestFlowMm3S, 1)} mm³/s. Lay it slower, or thinner.`,
      },
    ];
  },
};
