/** The whole print somewhere else on the bed: absolute moves between its start and its end. */
import { z } from "zod";
import { EditedLine } from "../../gcode/edited-line";
import { refuse } from "../../result";
import { bedCentre, outsideBedMm } from "../../shelf/printer";
import { bitsOf } from "../../trace/fields";
import { plainNumber, roundTo } from "../../units";
import { EditContext, EditKind } from "../edit";
import { LineSplices } from "../line-splice";
import { PARKS } from "./pause";
import { PlaceFinder } from "../scope";

export interface MoveEdit {
  kind: "move";
  byMm?: { x: number; y: number; z: number };
  /** To the middle of the bed. */
  centre?: true;
}

const figure = z
  .number({ error: "By how far must be a number in mm" })
  .min(-1000, "No bed is that large")
  .max(1000, "No bed is that large")
  .default(0);

const schema = z
  .strictObject({
    kind: z.literal("move"),
    byMm: z.strictObject({ x: figure, y: figure, z: figure }).optional(),
    centre: z.literal(true).optional(),
  })
  .refine(({ byMm, centre }) => (byMm === undefined) !== (centre === undefined), {
    message: "Say by how far, or to the centre",
  }) as unknown as z.ZodType<MoveEdit>;

const [G, X, Y, Z, E] = [71, 88, 89, 90, 69];

export const move: EditKind<MoveEdit> = {
  label: "move",
  schema,
  asks(edit, context) {
    const by = edit.byMm ?? toCentre(context);
    let isInside = false;
    return {
      bead(bead) {
        if (bead.layer < 0) return true;
        bead.x += by.x;
        bead.y += by.y;
        bead.z += by.z;
        bead.fromX += by.x;
        bead.fromY += by.y;
        bead.fromZ += by.z;
        bead.way.lowestMm += by.z;
        bead.way.highestMm += by.z;
        // The way into the print comes from where it came from, and where a person is waited for it stays where that is.
        if (!isInside || bead.way.says !== 0) bead.open |= bitsOf("travel", "travelFeed");
        isInside = true;
        return true;
      },
      end: (end) => void (end.open |= bitsOf("place", "travel", "travelFeed")),
    };
  },
  apply(edit, context) {
    const { file, printer } = context;
    const { bounds, lineEnd, layers, printFrom } = file.report;
    if (!bounds) return refuse("The file lays nothing, so there is nothing to move.");
    const by = edit.byMm ?? toCentre(context);
    const corners = [bounds.minX, bounds.maxX].flatMap((x) =>
      [bounds.minY, bounds.maxY].map((y) => outsideBedMm(printer, x + by.x, y + by.y)),
    );
    if (Math.max(...corners) > 0.01) {
      return refuse(
        `The print would stand ${plainNumber(Math.max(...corners), 1)} mm outside the bed of ${printer.name}.`,
        edit.centre ? "centre" : "byMm",
      );
    }
    if (by.z < 0 && layers[0].zMm - layers[0].heightMm + by.z < -0.01)
      return refuse("The print would go through the bed.", "byMm.z");
    const start = file.stateBefore(printFrom.byte);
    let { relative, unitMm } = start;
    const splices = new LineSplices(lineEnd, this.label, { goesAlong: true });
    let problem: string | null = null;
    // Behind a height that the end names itself, its figures count from there.
    let isNamedAnew = false;
    const place = new PlaceFinder(file);
    const edited = new EditedLine();
    file.walk(
      (line) => {
        place.at(line.number);
        // Raised, the print is higher than its end counts on: what lifts the nozzle there lifts it as much further.
        const isEnd = place.part === "end" && by.z > 0 && !isNamedAnew;
        if ((place.part !== "print" && !isEnd) || problem !== null) return;
        let moves = line.commandCount === 0 && line.wordCount > 0;
        for (let i = 0; i < line.wordCount; i++) {
          if (line.letters[i] !== G) continue;
          const code = line.values[i];
          if (code >= 0 && code <= 3) moves = true;
          else if (code === 90 || code === 91) relative = code === 91;
          else if (code === 20 || code === 21) unitMm = code === 20 ? 25.4 : 1;
          else if (code === 92 && isEnd) isNamedAnew = line.has(Z) || line.wordCount === 1;
          else if (code === 92 && (line.has(X) || line.has(Y) || line.has(Z) || !line.has(E))) {
            problem = `Line ${line.number + 1} resets a position (G92), so the print can't be moved after it.`;
          }
        }
        if (relative || !moves || (line.commentFrom >= 0 && line.comment() === PARKS)) return;
        shift(edited.take(line), isEnd ? { x: 0, y: 0, z: by.z } : by, unitMm);
        splices.rewrite(line, edited, place.layer);
      },
      { moves: true },
    );
    if (problem !== null) return refuse(problem);
    const isNowhere = by.x !== 0 || by.y !== 0 || by.z !== 0;
    if (isNowhere && splices.count === 0) {
      return refuse("This print uses relative positioning (G91), so it can't be moved.");
    }
    return splices.outcome([], { mustAll: true });
  },
};

function toCentre({ file: { report }, printer }: EditContext): { x: number; y: number; z: number } {
  const centre = bedCentre(printer);
  const { minX, maxX, minY, maxY } = report.bounds!;
  return { x: roundTo(centre.x - (minX + maxX) / 2, 3), y: roundTo(centre.y - (minY + maxY) / 2, 3), z: 0 };
}

const shifts = [
  { letter: X, name: "x" },
  { letter: Y, name: "y" },
  { letter: Z, name: "z" },
] as const;

/** Shifts the positions of a line; each figure keeps at least the decimals it has. */
function shift(line: EditedLine, by: { x: number; y: number; z: number }, unitMm: number): void {
  for (const { letter, name } of shifts) {
    if (by[name] === 0) continue;
    const word = line.wordOf(letter);
    if (word < 0) continue;
    const decimals = Math.max(unitMm === 1 ? 3 : 5, line.decimalsOf(word));
    line.setFigure(word, line.figureOf(word) + by[name] / unitMm, decimals);
  }
}
