import { Dialect, dutyFanLine } from "./dialect";

export const jerk: Dialect = {
  label: "Jerk",
  explains: "Cornering is set as jerk in mm/s.",
  fanHasDuty: true,
  cornering: "jerk",
  fanLine: dutyFanLine,
};
