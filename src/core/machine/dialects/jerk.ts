import { commonDialect, Dialect } from "./dialect";

export const jerk: Dialect = {
  ...commonDialect,
  label: "Jerk",
  explains: "Cornering is set as jerk in mm/s.",
};
