import type { SheetCheck } from "./check";

/** What is kept out is crossed again and again: walls that go round it hold better, and take less time. */
export const gapCrossed: SheetCheck = {
  key: "gap-crossed",
  passes: null,
  run({ sheet, laid: { gaps } }) {
    if (gaps === 0) return [];
    const places = sheet.keepOut.filter(({ off, around }) => !off && !around).length;
    return [
      {
        check: "gap-crossed",
        severity: "note",
        where: "keep out",
        message: `${places === 1 ? "The place" : `${places} places`} kept out ${places === 1 ? "is" : "are"} crossed ${gaps.toLocaleString("en")} ${gaps === 1 ? "time" : "times"}, lifted and drawn back.`,
        mend: { label: "Go round the edge", sheet: "go-round" },
      },
    ];
  },
};
