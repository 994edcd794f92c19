import { ProgramCheck } from "../check";

/** A file that no longer prints anything: an edit took all of it out. */
export const laysNothing: ProgramCheck = {
  key: "lays-nothing",
  passes: null,
  run({ report: { layers } }) {
    if (layers.length > 0) return [];
    return [
      {
        check: "lays-nothing",
        severity: "stop",
        where: "whole file",
        message: "Nothing would be printed: no move lays material. Look at what the edits make of the E values.",
      },
    ];
  },
};
