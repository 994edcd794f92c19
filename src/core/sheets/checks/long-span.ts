import { plainNumber } from "../../units";
import { findBridges } from "../../laid/over-air";
import { SheetCheck } from "./check";

/** Strands over air longer than this sag, mm. Common practice, no source. */
const LONGEST_SPAN_MM = 60;

export const longSpan: SheetCheck = {
  key: "long-span",
  passes: "No strand over air is too long.",
  run(context) {
    const over = findBridges(context.tables).filter(({ spanMm }) => spanMm > LONGEST_SPAN_MM);
    if (over.length === 0) return [];
    const [{ layer, spanMm }] = over;
    return [
      {
        check: "long-span",
        severity: "warn",
        where: `layer ${layer + 1}`,
        message: `A strand hangs over ${plainNumber(spanMm, 0)} mm of air; more than ${LONGEST_SPAN_MM} mm sag.`,
      },
    ];
  },
};
