import { Check } from "../check";

/** A tool that the printer does not have, or that the program never chooses. */
export const wrongTool: Check = {
  key: "wrong-tool",
  passes: null,
  run({ trial, printer, report: { facts } }) {
    const finding = (message: string) => [{ check: "wrong-tool", severity: "stop" as const, where: "tool", message }];
    if (trial.tool >= printer.tools) {
      const has = printer.tools === 1 ? "one tool, number 0" : `${printer.tools} tools, 0 to ${printer.tools - 1}`;
      return finding(
        `The trial wants tool ${trial.tool}; ${printer.name} has ${has}. Choose another tool or another printer.`,
      );
    }
    const other = facts.layingTools.find((tool) => tool !== trial.tool);
    if (other === undefined) return [];
    return finding(
      `The trial is for tool ${trial.tool}, but the program lays it with tool ${other}: something in the start lines chooses that one. Write T{{tool}} into them.`,
    );
  },
};
