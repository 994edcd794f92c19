import { refuse, succeed } from "../../result";
import { Dialect } from "./dialect";

export const valve: Dialect = {
  label: "Valve fan",
  explains: "The part fan is only on or off (M126, M127); it has no duty.",
  fanHasDuty: false,
  cornering: "jerk",
  fanLine(duty, { index }) {
    if (duty !== 0 && duty !== 255) {
      return refuse("This printer's fan is only on or off: use 0 % or 100 %.");
    }
    const named = index === null ? "" : ` T${index}`;
    return succeed((duty === 0 ? "M127" : "M126") + named);
  },
};
