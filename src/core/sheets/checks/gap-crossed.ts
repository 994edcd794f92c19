import type { SheetCheck } from "./check";

/** What is kept out is crossed again and again: walls that go round it hold better, and take less time. */
export const gapCrossed: SheetCheck = {
  key: "gap-crossed",
  passes: null,
  run({ sheet, laid: { gaps } }) {
    if (gaps === 0) return [];
    const all = sheet.keepOut.filter(({ off }) => !off);
    const crossed = all.filter(({ around }) => !around).length;
    // Where places overlap their edges cannot be gone round, whatever is wished.
    const isRound = crossed === 0;
    const places = isRound ? all.length : crossed;
    return [
      {
        check: "gap-crossed",
        severity: "note",
        where: "keep out",
        message: `${places === 1 ? "The place" : `${places} places`} kept out ${places === 1 ? "is" : "are"} crossed ${gaps.toLocaleString("en")} ${gaps === 1 ? "time" : "times"}, lifted and drawn back.${isRound ? " Places that overlap cannot be gone round: make one place of them." : ""}`,
        ...(isRound ? {} : { mend: { label: "Go round the edge", sheet: "go-round" as const } }),
      },
    ];
  },
};
