import { ProgramCheck } from "../check";

/** A tool that lays while its own fan stands still and another tool's turns. */
export const toolFan: ProgramCheck = {
  key: "tool-fan",
  passes: null,
  run({ report: { facts }, printer }) {
    if (!printer.fanPerTool || printer.tools < 2) return [];
    return facts.tools.flatMap(({ tool, fanElsewhere }) =>
      fanElsewhere
        ? [
            {
              check: "tool-fan",
              severity: "warn" as const,
              where: `line ${fanElsewhere.line}`,
              message: `Tool ${tool} lays material while its own fan stands still and fan ${fanElsewhere.value} turns beside it.`,
            },
          ]
        : [],
    );
  },
};
