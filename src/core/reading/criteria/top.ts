import { Criterion } from "../criterion";

/** Faces seen from above. */
export const top: Criterion = {
  short: "top",
  question: "How does the top face look?",
  answers: ["open", "gaps between lines", "ridges between lines", "nearly closed", "closed and flat"],
  aspect: "looks",
};
