/** Waiting heats: inside the print they only set, and at the start the bed comes first. */
import { z } from "zod";
import { bitOf, bitsOf } from "../../trace/fields";
import { EditKind } from "../edit";
import { LinePlace, LineSplices } from "../line-splice";
import { asComment, decodeLine } from "../line-text";
import { PlaceFinder } from "../scope";

export interface WaitsEdit {
  kind: "waits";
  /** Heats inside the print are set and not waited for. */
  inside: boolean;
  /** At the start the bed is waited for first, the nozzle last. */
  order: boolean;
}

const schema = z.strictObject({
  kind: z.literal("waits"),
  inside: z.boolean().default(true),
  order: z.boolean().default(false),
}) as unknown as z.ZodType<WaitsEdit>;

const M = 77;
/** The waiting command and the one that only sets. */
const setsOnly = new Map([
  [109, "M104"],
  [190, "M140"],
]);

export const waits: EditKind<WaitsEdit> = {
  label: "waits",
  schema,
  asks({ inside, order }, { file }) {
    let isFirst = true;
    const first = file.report.layers[0]?.insertLine - 1;
    return {
      bead(bead) {
        const isAtStart = isFirst || bead.line < first;
        if (inside || (order && isAtStart)) bead.open |= bitOf.waits;
        // Between two heats that change places something may be laid.
        if (order && bead.line < first) bead.open |= bitsOf("heat", "bed");
        isFirst = false;
        return true;
      },
      end: (end) => void (end.open |= inside ? bitOf.waits : 0),
    };
  },
  placesAlone: true,
  proves({ inside }, _before, { report }) {
    const left = inside ? report.facts.waitsInside : null;
    return left ? [`Line ${left.line} still waits for a heat inside the print.`] : [];
  },
  apply({ inside, order }, { file }) {
    const splices = new LineSplices(file.report.lineEnd, this.label);
    const atStart: Waiting[] = [];
    const place = new PlaceFinder(file);
    file.walk(
      (line) => {
        const code = line.letters[0] === M ? line.values[0] : NaN;
        const sets = line.commandCount === 1 ? setsOnly.get(code) : undefined;
        if (!sets) return;
        place.at(line.number);
        const text = decodeLine(line);
        if (place.part === "start") {
          if (!order || !splices.takes(line)) return;
          const { number, startByte, endByte } = line;
          atStart.push({ number, startByte, endByte, text, isBed: code === 190 });
          return;
        }
        if (!inside || place.part !== "print") return;
        // R waits for cooling as well; where nothing is waited for, it is the same figure.
        const changed = text.replace(/M\s*0*(109|190)/i, sets).replace(/\bR(?=\s*\d)/i, "S");
        splices.replace(line, [asComment(text, "was"), changed], place.layer);
      },
      { moves: false },
    );
    if (order) inOrder(atStart, splices);
    return splices.outcome([], {
      nothing: {
        check: "no-waits",
        severity: "note",
        where: "whole file",
        message: "Nothing is waited for there, or it is in order already.",
      },
    });
  },
};

interface Waiting extends LinePlace {
  text: string;
  isBed: boolean;
}

/** The texts of the waiting lines put in their places anew: the bed's before the nozzles'. */
function inOrder(lines: readonly Waiting[], splices: LineSplices): void {
  const sorted = [...lines].sort((a, b) => Number(b.isBed) - Number(a.isBed) || a.number - b.number);
  lines.forEach((line, i) => {
    if (sorted[i].text !== line.text) splices.replacePassed(line, [sorted[i].text], 0);
  });
}
