import { succeed } from "../../result";
import { plainNumber } from "../../units";
import { commonDialect, Dialect, usualCommands } from "./dialect";

export const deviation: Dialect = {
  ...commonDialect,
  label: "Junction deviation",
  explains: "Cornering is set as junction deviation in mm.",
  takes: new Set(usualCommands),
  cornering: "junctionDeviation",
  corneringLine: (deviationMm) => succeed(`M205 J${plainNumber(deviationMm, 4)}`),
};
