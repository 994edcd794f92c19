import { speaksOf } from "../../printing/template";
import { Check } from "../check";

/** A spool that wants its first layers hotter on a printer whose start lines heat by figures of their own. */
export const firstLayersUnheard: Check = {
  key: "first-layers-unheard",
  passes: null,
  run({ spool, printer }) {
    const wanted = [
      { what: "nozzle", more: spool.firstLayersNozzleHotterC, name: "nozzleFirst" as const },
      { what: "bed", more: spool.firstLayersBedHotterC, name: "bedFirst" as const },
    ];
    return wanted
      .filter(({ more, name }) => more > 0 && !speaksOf(printer.startLines, name))
      .map(({ what, name }) => ({
        check: "first-layers-unheard",
        severity: "note",
        where: "start lines",
        message: `The spool wants its first layers hotter, but the start lines of ${printer.name} heat the ${what} to their own temperatures, or not at all. Write {{${name}}} into them.`,
        mend: { label: "Look at the printer's start lines", open: "printer" },
      }));
  },
};
