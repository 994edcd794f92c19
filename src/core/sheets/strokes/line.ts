import { Result, succeed } from "../../result";
import type { Formula } from "../formula";
import type { LineStroke } from "../sheet";
import { Draw, StrokeKind } from "./stroke";

/** Straight from place to place. */
export const line: StrokeKind<LineStroke> = {
  label: "line",
  compile({ points, closed = false }, scope, field): Result<Draw> {
    const places: [Formula, Formula][] = [];
    for (const [i, [x, y]] of points.entries()) {
      const [cx, cy] = [scope.compile(x, `${field}.points.${i}.0`), scope.compile(y, `${field}.points.${i}.1`)];
      if (!cx.ok) return cx;
      if (!cy.ok) return cy;
      places.push([cx.value.at, cy.value.at]);
    }
    const { slots } = scope;
    const last = closed ? places.length : places.length - 1;
    return succeed((path) => {
      path.begin(closed);
      places.forEach(([x, y], i) => path.add(x(slots), y(slots), i / last, 0));
      if (closed) path.add(path.x[0], path.y[0], 1, 0);
    });
  },
};
