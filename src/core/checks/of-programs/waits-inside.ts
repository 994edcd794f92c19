import { ProgramCheck } from "../check";

/** A temperature change inside the print that waits: the nozzle would stand and ooze. */
export const waitsInside: ProgramCheck = {
  key: "waits-inside",
  passes: null,
  run({ report: { facts, filament }, trial }) {
    const { waitsInside: waits } = facts;
    // With several tools a tool is waited for when it is taken up.
    if (!waits || filament.length > 1) return [];
    return [
      {
        check: "waits-inside",
        severity: trial ? "warn" : "note",
        where: `line ${waits.line}`,
        message: `${waits.count === 1 ? "One temperature change waits" : `${waits.count} temperature changes wait`} inside the print: the nozzle stands there and oozes on the piece.`,
      },
    ];
  },
};
