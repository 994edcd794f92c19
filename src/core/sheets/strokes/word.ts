import { Result, succeed } from "../../result";
import { strokesOf } from "../letters";
import type { WordStroke } from "../sheet";
import { compileAll, Draw, StrokeKind } from "./stroke";

/** A word in single strokes; the nozzle goes from one to the next. */
export const word: StrokeKind<WordStroke> = {
  label: "word",
  compile({ text, at: [left, low], sizeMm }, scope, field): Result<Draw> {
    const compiled = compileAll(scope, field, { "at.0": left, "at.1": low, sizeMm });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    const { slots } = scope;
    return succeed((path) => {
      path.begin(false);
      const [x, y] = [formula["at.0"](slots), formula["at.1"](slots)];
      const strokes = strokesOf(text, formula.sizeMm(slots));
      const points = strokes.reduce((sum, stroke) => sum + stroke.length, 0);
      for (const stroke of strokes) {
        path.lift();
        for (const point of stroke) path.add(x + point.x, y + point.y, path.count / Math.max(1, points - 1), 0);
      }
    });
  },
};
