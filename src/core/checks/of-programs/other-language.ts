import { hasCommand } from "../../machine/command";
import { commandFor } from "../../machine/commands";
import { readingOf } from "../../machine/reading";
import { ProgramCheck } from "../check";

/** A file of somebody else's that says what it says in the words of other printers: this one passes them over. */
export const otherLanguage: ProgramCheck = {
  key: "other-language",
  passes: null,
  run({ report: { unknown }, printer, trial }) {
    if (trial) return [];
    const foreign = unknown.flatMap(({ command, count }) => {
      const known = commandFor(command);
      return known && !hasCommand(known, readingOf(printer)) ? [{ command, count, does: known.does }] : [];
    });
    if (foreign.length === 0) return [];
    const [first] = foreign;
    const others =
      foreign.length === 1
        ? ""
        : ` (and ${foreign
            .slice(1, 4)
            .map(({ command }) => command)
            .join(", ")})`;
    return [
      {
        check: "other-language",
        severity: "warn",
        where: "whole file",
        message: `The file says ${first.command}${others}: “${first.does}” in the language of other printers. ${printer.name} does not know it, and no edit changes it. If the file is for another printer, choose that one beside the file.`,
      },
    ];
  },
};
