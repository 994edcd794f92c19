import { commonDialect, Dialect, usualCommands } from "./dialect";

export const jerk: Dialect = {
  ...commonDialect,
  label: "Jerk",
  explains: "Cornering is set as jerk in mm/s.",
  takes: new Set(usualCommands),
};
