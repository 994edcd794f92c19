import { refuse, Result, succeed } from "../../result";
import type { Path } from "../path";
import type { ArcStroke, Expr } from "../sheet";
import { compileAll, Draw, facesFor, StrokeKind } from "./stroke";

/** A part of a circle: round a centre from one angle to another, or through three places. */
export const arc: StrokeKind<ArcStroke> = {
  label: "arc",
  compile(stroke, scope, field): Result<Draw> {
    const { slots } = scope;
    if (stroke.through) {
      const texts = Object.fromEntries(
        stroke.through.flatMap(([x, y], i) => [
          [`through.${i}.0`, x],
          [`through.${i}.1`, y],
        ]),
      ) as Record<string, Expr>;
      const compiled = compileAll(scope, field, texts);
      if (!compiled.ok) return compiled;
      const at = (i: number) => ({
        x: compiled.value[`through.${i}.0`](slots),
        y: compiled.value[`through.${i}.1`](slots),
      });
      return succeed((path) => throughThree(path, at(0), at(1), at(2)));
    }
    const { centre, radiusMm, from, to } = stroke;
    if (!centre || radiusMm === undefined || from === undefined || to === undefined) {
      return refuse("An arc goes through three places, or has a centre, a radius and two angles.", field);
    }
    const compiled = compileAll(scope, field, { "centre.0": centre[0], "centre.1": centre[1], radiusMm, from, to });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    return succeed((path) =>
      drawArc(
        path,
        { x: formula["centre.0"](slots), y: formula["centre.1"](slots) },
        formula.radiusMm(slots),
        formula.from(slots),
        formula.to(slots),
      ),
    );
  },
};

interface At {
  x: number;
  y: number;
}

function drawArc(path: Path, { x, y }: At, radius: number, from: number, to: number): void {
  path.begin(false);
  const steps = Math.max(1, Math.ceil((facesFor(radius) * Math.abs(to - from)) / (2 * Math.PI)));
  for (let i = 0; i <= steps; i++) {
    const angle = from + ((to - from) * i) / steps;
    path.add(x + radius * Math.cos(angle), y + radius * Math.sin(angle), i / steps, angle);
  }
}

/** The arc from the first place through the second to the third; straight where they lie on a line (circumcentre, plane geometry). */
function throughThree(path: Path, a: At, b: At, c: At): void {
  const twice = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y));
  if (Math.abs(twice) < 1e-9) {
    path.begin(false);
    [a, b, c].forEach(({ x, y }, i) => path.add(x, y, i / 2, 0));
    return;
  }
  const square = ({ x, y }: At) => x * x + y * y;
  const centre = {
    x: (square(a) * (b.y - c.y) + square(b) * (c.y - a.y) + square(c) * (a.y - b.y)) / twice,
    y: (square(a) * (c.x - b.x) + square(b) * (a.x - c.x) + square(c) * (b.x - a.x)) / twice,
  };
  const angleOf = ({ x, y }: At) => Math.atan2(y - centre.y, x - centre.x);
  const from = angleOf(a);
  const against = twice > 0;
  const turn = (angle: number) => {
    const by = (angle - from) % (2 * Math.PI);
    if (against) return by < 0 ? by + 2 * Math.PI : by;
    return by > 0 ? by - 2 * Math.PI : by;
  };
  drawArc(path, centre, Math.hypot(a.x - centre.x, a.y - centre.y), from, from + turn(angleOf(c)));
}
