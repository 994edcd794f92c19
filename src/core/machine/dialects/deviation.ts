import { succeed } from "../../result";
import { plainNumber } from "../../units";
import { commonDialect, Dialect } from "./dialect";

export const deviation: Dialect = {
  ...commonDialect,
  label: "Junction deviation",
  explains: "Cornering is set as junction deviation in mm.",
  cornering: "junctionDeviation",
  corneringLine: (deviationMm) => succeed(`M205 J${plainNumber(deviationMm, 4)}`),
};
