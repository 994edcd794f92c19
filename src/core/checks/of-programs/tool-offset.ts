import { ProgramCheck } from "../check";

/** A further tool of which the program never says where it stands, on a printer that leaves that to the program. */
export const toolOffset: ProgramCheck = {
  key: "tool-offset",
  passes: null,
  run({ report: { facts }, printer }) {
    if (!printer.offsetsInProgram || printer.tools < 2) return [];
    return facts.tools
      .filter(({ tool, lays, hasOffset }) => lays && tool > 0 && !hasOffset)
      .map(({ tool }) => ({
        check: "tool-offset",
        severity: "warn" as const,
        where: "start of the file",
        message: `The file never says where tool ${tool} stands from the first, and ${printer.name} leaves that to it. Add M218 T${tool} X… Y… to its start.`,
      }));
  },
};
