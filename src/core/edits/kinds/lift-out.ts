import { z } from "zod";
import { Finding, LiftOutEdit, usualLiftOut } from "../../findings/finding";
import { succeed } from "../../result";
import { settingKeys } from "../../settings";
import { bitOf, bitsOf } from "../../trace/fields";
import { fieldsOf, SET } from "../asked";
import { EditKind } from "../edit";
import { spliceSet } from "../splices/gather";

export type { LiftOutEdit } from "../../findings/finding";

const schema: z.ZodType<LiftOutEdit> = z.strictObject({
  kind: z.literal("lift-out"),
  what: z.enum(["cuchara", "foreign"], { error: "Say what to lift out: cuchara or foreign" }),
  settings: z.array(z.enum(settingKeys)).optional(),
  tool: z.int({ error: "A tool is a whole number" }).min(0, "Tools count from 0").max(7, "At most 8 tools").optional(),
});

/** Takes whole lines out of the file. */
export const liftOut: EditKind<LiftOutEdit> = {
  label: "lines taken out",
  schema,
  asks({ what, settings = [...usualLiftOut] }) {
    const keys = what === "cuchara" ? settingKeys : settings;
    const open = keys.reduce((bits, key) => bits | fieldsOf(key), 0) | bitOf.waits;
    // Lines of one's own may say anything, as long as it moves nothing.
    const own =
      what === "cuchara" ? SET | bitsOf("shows", "says", "feed", "filament", "travelFeed", "drawnFeed", "drawn") : 0;
    return {
      bead(bead) {
        if (bead.layer >= 0) bead.open |= open | own;
        return true;
      },
      end: (end) => void (end.open |= open | own),
    };
  },
  placesAlone: true,
  apply({ what, settings = [...usualLiftOut], tool }, { file: { report } }) {
    const lines =
      what === "cuchara"
        ? report.cuchara
        : report.changes.filter(
            (change) =>
              !change.ours &&
              settings.includes(change.key) &&
              (tool === undefined || change.tool === tool) &&
              (change.layer >= 1 || change.within) &&
              change.layer < report.layers.length,
          );
    const taken = new Set<number>();
    const splices = lines.flatMap(({ line, startByte, endByte }) => {
      // One line can hold two changes; it goes once.
      if (taken.has(line)) return [];
      taken.add(line);
      const removeBytes = endByte - startByte;
      return [{ atByte: startByte, removeBytes, removeLines: 1, insert: "", line, by: this.label }];
    });
    const set = spliceSet(splices);
    if (!set.ok) return set;
    return succeed({ splices: set.value, findings: splices.length > 0 ? [] : [nothingLeft(what)] });
  },
};

function nothingLeft(what: LiftOutEdit["what"]): Finding {
  return {
    check: "nothing-to-lift",
    severity: "note",
    where: "whole file",
    message:
      what === "cuchara"
        ? "No earlier plan is left in this file."
        : "The file changes nothing of that inside the print.",
  };
}
