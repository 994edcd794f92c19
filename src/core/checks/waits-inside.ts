import { Check } from "./finding";

/** A temperature change inside the print that waits: the nozzle would stand and ooze. */
export const waitsInside: Check = {
  key: "waits-inside",
  passes: null,
  run({ changes, report }) {
    const waiting = changes.filter(({ waits, layer }) => waits && layer >= 1 && layer < report.layers.length);
    if (waiting.length === 0) return [];
    return [
      {
        check: "waits-inside",
        severity: "warn",
        where: `line ${waiting[0].line + 1}`,
        message: `${waiting.length === 1 ? "One temperature change waits" : `${waiting.length} temperature changes wait`} inside the print: the nozzle stands there and oozes on the piece.`,
      },
    ];
  },
};
