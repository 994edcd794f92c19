import { ProgramCheck } from "../check";

/** A tool that is heated or chosen and never lays anything. */
export const toolUnused: ProgramCheck = {
  key: "tool-unused",
  passes: null,
  run({ report: { facts } }) {
    if (facts.layingTools.length === 0) return [];
    // Tool 0 is in use without ever being named.
    return facts.tools
      .filter(({ tool, lays }) => !lays && tool > 0)
      .map(({ tool }) => ({
        check: "tool-unused",
        severity: "note" as const,
        where: "whole file",
        message: `Tool ${tool} is heated or chosen, and never lays anything.`,
      }));
  },
};
