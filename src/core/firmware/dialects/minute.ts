import { Dialect, dutyFanLine } from "./dialect";

export const minute: Dialect = {
  label: "Per minute",
  explains: "Cornering is set as a speed step in mm/min; limits are in mm/s.",
  fanHasDuty: true,
  cornering: "jerk",
  fanLine: dutyFanLine,
};
