import { Check } from "./finding";

/** A tool that the printer does not have. */
export const wrongTool: Check = {
  key: "wrong-tool",
  passes: null,
  run({ trial, printer }) {
    if (!trial || trial.tool < printer.tools) return [];
    const has = printer.tools === 1 ? "one tool, number 0" : `${printer.tools} tools, 0 to ${printer.tools - 1}`;
    return [
      {
        check: "wrong-tool",
        severity: "stop",
        where: "tool",
        message: `The trial wants tool ${trial.tool}; ${printer.name} has ${has}. Choose another tool or another printer.`,
      },
    ];
  },
};
