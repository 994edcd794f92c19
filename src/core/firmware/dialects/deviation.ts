import { Dialect, dutyFanLine } from "./dialect";

export const deviation: Dialect = {
  label: "Junction deviation",
  explains: "Cornering is set as junction deviation in mm.",
  fanHasDuty: true,
  cornering: "junctionDeviation",
  fanLine: dutyFanLine,
};
