import { Criterion } from "../criterion";

/** Gaps: where too little was laid. */
export const gaps: Criterion = {
  short: "gaps",
  question: "Are there gaps or thin spots?",
  answers: ["holes", "many", "several", "a pinhole or two", "none"],
  aspect: "strength",
};
