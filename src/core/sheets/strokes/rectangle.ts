import { Result, succeed } from "../../result";
import type { RectangleStroke } from "../sheet";
import { compileAll, Draw, facesFor, StrokeKind } from "./stroke";

/** A rectangle, its corners rounded where that is wanted. */
export const rectangle: StrokeKind<RectangleStroke> = {
  label: "rectangle",
  compile({ centre: [cx, cy], widthMm, depthMm, cornerMm = 0 }, scope, field): Result<Draw> {
    const compiled = compileAll(scope, field, { "centre.0": cx, "centre.1": cy, widthMm, depthMm, cornerMm });
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    const { slots } = scope;
    return succeed((path) => {
      path.begin(true);
      const [x, y] = [formula["centre.0"](slots), formula["centre.1"](slots)];
      const [halfX, halfY] = [formula.widthMm(slots) / 2, formula.depthMm(slots) / 2];
      const corner = Math.max(0, Math.min(formula.cornerMm(slots), halfX, halfY));
      const steps = corner > 0 ? Math.max(2, Math.ceil(facesFor(corner) / 4)) : 0;
      const total = 4 * (steps + 1);
      let at = 0;
      // Front right first, then round against the clock.
      for (let quarter = 0; quarter < 4; quarter++) {
        const [signX, signY] = [quarter < 2 ? 1 : -1, quarter === 1 || quarter === 2 ? 1 : -1];
        const [middleX, middleY] = [x + signX * (halfX - corner), y + signY * (halfY - corner)];
        for (let step = 0; step <= steps; step++) {
          const angle = (quarter - 1) * (Math.PI / 2) + (steps > 0 ? (step / steps) * (Math.PI / 2) : 0);
          path.add(
            corner > 0 ? middleX + corner * Math.cos(angle) : middleX,
            corner > 0 ? middleY + corner * Math.sin(angle) : middleY,
            at++ / total,
            angle,
          );
        }
      }
      path.add(path.x[0], path.y[0], 1, path.a[0]);
    });
  },
};
