import { Dialect, dutyFanLine } from "./dialect";

export const keyword: Dialect = {
  label: "Keyword",
  explains: "Settings are commands with names and KEY=value pairs.",
  fanHasDuty: true,
  cornering: "jerk",
  fanLine: dutyFanLine,
};
