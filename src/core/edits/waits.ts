/** Waiting heats: inside the print they only set, and at the start the bed comes first. */
import { z } from "zod";
import { succeed } from "../result";
import { EditKind } from "./edit";
import { replaced } from "./line-splice";
import { asComment, decodeLine } from "./line-text";
import { PlaceFinder } from "./scope";
import type { Splice } from "./splice";

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
  apply({ inside, order }, { file }) {
    const { lineEnd } = file.report;
    const where = { lineEnd, by: this.label };
    const splices: Splice[] = [];
    const atStart: { line: number; startByte: number; endByte: number; text: string; code: number }[] = [];
    const place = new PlaceFinder(file);
    file.walk(
      (line) => {
        const code = line.letters[0] === M ? line.values[0] : NaN;
        const sets = line.commandCount === 1 ? setsOnly.get(code) : undefined;
        if (!sets) return;
        place.at(line.number);
        const text = decodeLine(line);
        if (place.part === "start") {
          atStart.push({ line: line.number, startByte: line.startByte, endByte: line.endByte, text, code });
          return;
        }
        if (!inside || place.part !== "print") return;
        // R waits for cooling as well; where nothing is waited for, it is the same figure.
        const changed = text.replace(/M\s*0*(109|190)/i, sets).replace(/\bR(?=\s*\d)/i, "S");
        const splice = replaced(line, [asComment(text, "was"), changed], { ...where, layer: place.layer });
        if (splice) splices.push(splice);
      },
      { moves: false },
    );
    if (order) splices.push(...inOrder(atStart, where));
    return succeed({
      splices,
      findings:
        splices.length > 0
          ? []
          : [
              {
                check: "no-waits",
                severity: "note",
                where: "whole file",
                message: "Nothing is waited for there, or it is in order already.",
              },
            ],
    });
  },
};

/** The texts of the waiting lines put in their places anew: the bed's before the nozzles'. */
function inOrder(
  lines: readonly { line: number; startByte: number; endByte: number; text: string; code: number }[],
  { lineEnd, by }: { lineEnd: string; by: string },
): Splice[] {
  const sorted = [...lines].sort((a, b) => Number(a.code === 109) - Number(b.code === 109) || a.line - b.line);
  return lines.flatMap(({ line, startByte, endByte, text }, i) =>
    sorted[i].text === text
      ? []
      : [
          {
            atByte: startByte,
            removeBytes: endByte - startByte,
            removeLines: 1,
            insert: sorted[i].text + lineEnd,
            line,
            layer: 0,
            by,
          },
        ],
  );
}
