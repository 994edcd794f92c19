import { Result, succeed } from "../../result";
import type { ClimbStroke } from "../sheet";
import { compileAll, Draw, StrokeKind, wholeSteps } from "./stroke";

const USUAL_FACES = 120;
const MOST_TURNS = 20_000;

/** A wall that climbs all the way round, without a seam; its radius may follow the angle and the height. */
export const climb: StrokeKind<ClimbStroke> = {
  label: "climbing wall",
  compile(stroke, scope, field): Result<Draw> {
    const { centre, radiusMm, fromMm, toMm, risePerTurnMm, facesPerTurn = USUAL_FACES } = stroke;
    const texts = { "centre.0": centre[0], "centre.1": centre[1], radiusMm, fromMm, toMm, risePerTurnMm, facesPerTurn };
    const compiled = compileAll(scope, field, texts);
    if (!compiled.ok) return compiled;
    const formula = compiled.value;
    const { slots } = scope;
    const [slotA, slotZ, slotT] = ["a", "z", "t"].map((name) => scope.names.get(name)!);
    return succeed((path) => {
      const [low, high, rise] = [formula.fromMm(slots), formula.toMm(slots), formula.risePerTurnMm(slots)];
      path.begin(false, rise);
      const turns = Math.min(MOST_TURNS, (high - low) / rise);
      if (!(turns > 0)) return;
      const perTurn = wholeSteps(formula.facesPerTurn(slots), 3);
      const steps = Math.min(2_000_000, Math.ceil(turns * perTurn - 1e-6));
      const ownZ = slots[slotZ];
      for (let i = 0; i <= steps; i++) {
        const angle = (2 * Math.PI * turns * i) / steps;
        const z = low + ((high - low) * i) / steps;
        slots[slotA] = angle;
        slots[slotZ] = z;
        slots[slotT] = i / steps;
        const radius = formula.radiusMm(slots);
        const [x, y] = [formula["centre.0"](slots), formula["centre.1"](slots)];
        path.add(x + radius * Math.cos(angle), y + radius * Math.sin(angle), i / steps, angle, z);
      }
      slots[slotZ] = ownZ;
    });
  },
};
