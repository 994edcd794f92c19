import { refuse, succeed } from "../../result";
import { cannot, commonDialect, Dialect, jerkPerSecond, limitsByAxis, savedValues, valveFan } from "./dialect";

export const valve: Dialect = {
  ...commonDialect,
  label: "Valve fan",
  explains: "The part fan is only on or off (M126, M127); it has no duty.",
  takes: new Set([...valveFan, ...savedValues, ...limitsByAxis, ...jerkPerSecond]),
  autotunes: ["nozzle"],
  fanHasDuty: false,
  fanLine(duty, { index }) {
    if (duty !== 0 && duty !== 255) {
      return refuse("This printer's fan is only on or off: use 0 % or 100 %.");
    }
    const named = index === null ? "" : ` T${index}`;
    return succeed((duty === 0 ? "M127" : "M126") + named);
  },
  pressureAdvanceLine: () => cannot("pressure advance", "leave it out of the plan, or choose another printer."),
  firmwareRetractionLine: () =>
    cannot("retraction by the firmware", "say on the printer's page that it retracts inside the moves."),
};
