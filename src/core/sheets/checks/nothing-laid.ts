import type { SheetCheck } from "./check";

export const nothingLaid: SheetCheck = {
  key: "nothing-laid",
  passes: null,
  run: ({ report }) =>
    report.layers.length > 0
      ? []
      : [{ check: "nothing-laid", severity: "stop", where: "the sheet", message: "The sheet lays nothing yet." }],
};
