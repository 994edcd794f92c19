import { ProgramCheck } from "../check";

/** A file of somebody else's that lays with tools this printer does not have: then a heat without a name reaches one tool only. */
export const toolsBeyond: ProgramCheck = {
  key: "tools-beyond",
  passes: null,
  run({ report: { facts }, printer, trial }) {
    const beyond = facts.layingTools.filter((tool) => tool >= printer.tools);
    if (trial || beyond.length === 0) return [];
    const has = printer.tools === 1 ? "one tool, number 0" : `tools 0 to ${printer.tools - 1}`;
    return [
      {
        check: "tools-beyond",
        severity: "warn",
        where: "tools",
        message: `The file lays with tool ${beyond.join(" and ")}; ${printer.name} has ${has}. Choose the printer it was made for, or put another tool in its place.`,
      },
    ];
  },
};
