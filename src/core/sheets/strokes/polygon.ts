import { Result, succeed } from "../../result";
import type { CircleStroke, PolygonStroke } from "../sheet";
import type { Path } from "../path";
import { compileAll, Draw, facesFor, StrokeKind, wholeSteps } from "./stroke";

/** A regular polygon: its corners lie on the circle. */
export const polygon: StrokeKind<PolygonStroke> = {
  label: "polygon",
  compile({ centre: [cx, cy], radiusMm, sides, from = 0 }, scope, field): Result<Draw> {
    const compiled = compileAll(scope, field, { "centre.0": cx, "centre.1": cy, radiusMm, sides, from });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    const { slots } = scope;
    return succeed((path) => {
      const at = { x: formula["centre.0"](slots), y: formula["centre.1"](slots) };
      ring(path, at, formula.radiusMm(slots), wholeSteps(formula.sides(slots), 3), formula.from(slots));
    });
  },
};

/** A circle, as chords that nobody sees; with few faces where that is wanted, for it grips. */
export const circle: StrokeKind<CircleStroke> = {
  label: "ring",
  compile({ centre: [cx, cy], radiusMm, faces }, scope, field): Result<Draw> {
    const compiled = compileAll(scope, field, { "centre.0": cx, "centre.1": cy, radiusMm, faces: faces ?? 0 });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    const { slots } = scope;
    return succeed((path) => {
      const radius = formula.radiusMm(slots);
      const at = { x: formula["centre.0"](slots), y: formula["centre.1"](slots) };
      ring(path, at, radius, faces === undefined ? facesFor(radius) : wholeSteps(formula.faces(slots), 3), 0);
    });
  },
};

function ring(path: Path, { x, y }: { x: number; y: number }, radius: number, sides: number, from: number): void {
  path.begin(true);
  for (let i = 0; i <= sides; i++) {
    // The last is the first to the bit: a ring closes.
    const angle = from + (2 * Math.PI * (i % sides)) / sides;
    path.add(x + radius * Math.cos(angle), y + radius * Math.sin(angle), i / sides, angle);
  }
}
