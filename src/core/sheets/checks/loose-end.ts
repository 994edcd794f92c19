import { plainNumber } from "../../units";
import { findBridges } from "../../laid/over-air";
import { SheetCheck } from "./check";

/** An end over air that is longer than this hangs down, mm. Common practice, no source. */
const LONGEST_END_MM = 5;

/** A strand over air that is held at one end, or at none: cut by what is kept out, or ending in the air. */
export const looseEnd: SheetCheck = {
  key: "loose-end",
  passes: "Every strand over air is held at both ends.",
  run(context) {
    const loose = findBridges(context.tables).flatMap(({ layer, line, stretches }) =>
      stretches
        .filter(({ heldEnds, lengthMm }) => heldEnds < 2 && lengthMm > LONGEST_END_MM)
        .map(({ heldEnds, lengthMm }) => ({ layer, line, heldEnds, lengthMm })),
    );
    if (loose.length === 0) return [];
    const [{ layer, line, heldEnds, lengthMm }] = loose;
    const more = loose.length === 1 ? "" : ` ${loose.length - 1} more like it.`;
    return [
      {
        check: "loose-end",
        severity: "warn",
        where: `layer ${layer + 1}, line ${line + 1}`,
        message: `${plainNumber(lengthMm, 0)} mm of a strand hang in free air: ${heldEnds === 0 ? "neither end is" : "only one end is"} held.${more}`,
      },
    ];
  },
};
