import { refuse, Result, succeed } from "../../result";
import type { CurveStroke } from "../sheet";
import { compileAll, Draw, StrokeKind, wholeSteps } from "./stroke";

const USUAL_STEPS = 200;

/** A curve by formula: in X and Y, or in angle and radius round a centre; `t` runs from its beginning to its end. */
export const curve: StrokeKind<CurveStroke> = {
  label: "curve",
  compile({ from, to, x, y, angle, radiusMm, centre = [0, 0], steps = USUAL_STEPS }, scope, field): Result<Draw> {
    const { slots } = scope;
    const slotT = scope.names.get("t")!;
    const slotA = scope.names.get("a")!;
    const ends = compileAll(scope, field, { from, to, steps });
    if (!ends.ok) return ends;
    const run = (path: Parameters<Draw>[0], place: (t: number) => void) => {
      const [low, high] = [ends.value.from(slots), ends.value.to(slots)];
      const count = wholeSteps(ends.value.steps(slots), 1);
      path.begin(false);
      for (let i = 0; i <= count; i++) {
        const t = low + ((high - low) * i) / count;
        slots[slotT] = t;
        place(t);
      }
    };
    if (x !== undefined && y !== undefined) {
      const compiled = compileAll(scope, field, { x, y });
      if (!compiled.ok) return compiled;
      const { x: atX, y: atY } = compiled.value;
      return succeed((path) => run(path, (t) => path.add(atX(slots), atY(slots), t, 0)));
    }
    if (angle === undefined || radiusMm === undefined) {
      return refuse("A curve is said by x and y, or by angle and radius.", field);
    }
    const compiled = compileAll(scope, field, { angle, radiusMm, "centre.0": centre[0], "centre.1": centre[1] });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    return succeed((path) =>
      run(path, (t) => {
        const turned = formula.angle(slots);
        slots[slotA] = turned;
        const radius = formula.radiusMm(slots);
        const [middleX, middleY] = [formula["centre.0"](slots), formula["centre.1"](slots)];
        path.add(middleX + radius * Math.cos(turned), middleY + radius * Math.sin(turned), t, turned);
      }),
    );
  },
};
