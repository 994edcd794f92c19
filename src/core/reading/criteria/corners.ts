import { Criterion } from "../criterion";

/** Corners, and whether they lift. */
export const corners: Criterion = {
  short: "corners",
  question: "How are corners and edges?",
  answers: ["torn off", "lifted or swollen", "rounded", "nearly sharp", "sharp and flat"],
  aspect: "looks",
};
