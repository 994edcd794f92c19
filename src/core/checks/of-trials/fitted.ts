import { Check } from "../check";

/** Where this printer made the first round or the piece smaller than usual. */
export const fitted: Check = {
  key: "fitted",
  passes: null,
  run: ({ trial, printer }) =>
    trial.notes.map((message) => ({ check: "fitted", severity: "note", where: printer.name, message })),
};
