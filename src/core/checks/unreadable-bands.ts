import { Check } from "./finding";

/** Bands without room for their value in raised digits. */
export const unreadableBands: Check = {
  key: "unreadable-bands",
  passes: null,
  run({ unlabelled }) {
    if (unlabelled.length === 0) return [];
    return [
      {
        check: "unreadable-bands",
        severity: "note",
        where: `band${unlabelled.length > 1 ? "s" : ""} ${unlabelled.slice(0, 8).join(", ")}${unlabelled.length > 8 ? " …" : ""}`,
        message: "No room for the value on the piece: count the bands from the base, or make them 4 mm high.",
      },
    ];
  },
};
